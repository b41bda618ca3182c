import { AppError } from '@/core/base/diagnostic';
import { readStored } from '@/core/compile/upgrade';
import type { StarterValue } from '@/core/presets/kinds';
import type { StarterGiven } from '@/contract/presets';
import { findMaterial } from '@/db/queries/materials';
import type { SignedIn } from './authentication';
import { askForSwatch, presetHead, putOnRack, readPreset } from './presets';
import { findRevision } from './stored';

/** Keeps the newest revision of a material as a starter, with a picture of it. */
export async function keepStarter(user: SignedIn, given: StarterGiven): Promise<{ id: string }> {
  const { materialId, rack, name, description, tags } = given;
  const material = await findMaterial(user.id, materialId);
  const revision = material && (await findRevision(materialId, material.head));
  if (!material || !revision)
    throw new AppError(
      'material.not-found',
      'There is no such material, or it belongs to a project you are not in.',
      'Go back to the list of materials.',
      { kept: 'Nothing was kept.', status: 403 },
    );
  const made = await putOnRack(user, {
    ...{ kind: 'starter', rack, name, description, tags, authorId: user.id },
    value: { document: revision.document, modelId: material.modelId },
    // What the list of materials shows, until the picture of this very revision is drawn.
    swatchHash: material.swatchHash,
  });
  await askForSwatch(user, made.id, name);
  return made;
}

/** A stored starter as this release reads it. @throws AppError where it cannot */
export function readStarter({ document: raw, modelId }: StarterValue): StarterValue {
  const { document, diagnostics } = readStored(raw);
  if (document) return { document, modelId };
  throw new AppError(
    'document.unreadable',
    `This starter cannot be read: ${diagnostics[0]?.message ?? 'it is damaged.'}`,
    'Keep it anew from a material that was saved with this release.',
    { status: 409, kept: 'It is kept as it was saved.', findings: diagnostics },
  );
}

/** A starter with its network. @throws AppError where there is none, or it cannot be read */
export async function openStarter(user: SignedIn, id: string) {
  const { value, ...row } = await readPreset(user, id);
  if (!('document' in value))
    throw new AppError('preset.no-starter', `“${row.name}” is no starter.`, '', {
      kept: 'Nothing was changed.',
      status: 404,
    });
  return { ...presetHead(user, row), value: readStarter(value) };
}
