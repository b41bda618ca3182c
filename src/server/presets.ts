import { AppError } from '@/core/base/diagnostic';
import { PRESET_KINDS } from '@/core/presets/kinds';
import type { PresetKind, PresetValue } from '@/core/presets/kinds';
import { MOST_PRESETS, PRESET_PAGE } from '@/contract/presets';
import type {
  PresetArrangement,
  PresetGiven,
  PresetList,
  PresetQuery,
  PresetView,
} from '@/contract/presets';
import { isAlreadyThere } from '@/db/client';
import { listProjects } from '@/db/queries/materials';
import {
  changePreset,
  countPresets,
  findPreset,
  findPresets,
  keepPreset as storePreset,
  removePreset,
} from '@/db/queries/presets';
import type { NewPreset } from '@/db/queries/presets';
import type { SignedIn } from './authentication';
import { tryToEnqueue } from './jobs/enqueue';
import { PRESET_SWATCH } from './jobs/lanes';
import { racksOf, readEntry } from './library';
import { STUDIO_RACK, assertMayPublish, mayEdit, mayPublish } from './rights';
import { assertName, assertNewName, readRules } from './rules';

const UNKEPT = 'Nothing was kept.';
const UNCHANGED = 'Nothing was changed.';
const plural = (kind: PresetKind): string => PRESET_KINDS[kind].plural.toLowerCase();

type Row = Awaited<ReturnType<typeof findPresets>>[number];

/** What is told of a preset, without its value. */
export function presetHead(user: SignedIn, row: Omit<Row, 'value'>): Omit<PresetView, 'value'> {
  const { authorId, entryId: _entry, updatedAt, ...head } = row;
  return { ...head, updatedAt: updatedAt.toISOString(), mayEdit: mayEdit(user, authorId) };
}

/** What stands on the racks a person sees, by name. */
export async function listPresets(user: SignedIn, given: PresetQuery): Promise<PresetList> {
  const racks = await racksOf(user);
  const projects = racks.flatMap(({ id }) => (id.startsWith('project:') ? [id.slice(8)] : []));
  const seen = racks.map(({ id }) => id);
  const rules = await readRules();
  const found = await findPresets({
    racks: seen.filter((id) => !given.rack || id === given.rack),
    entryRacks: seen,
    kind: given.kind ?? null,
    entryId: given.entry ?? null,
    query: given.query ?? '',
    first: Number(given.first ?? 0),
    count: PRESET_PAGE,
  });
  return {
    racks: racks.map(({ id, name }) => ({
      id,
      name,
      mayKeep: mayPublish(user, id, projects, rules),
    })),
    presets: found.slice(0, PRESET_PAGE).map((row) => ({
      ...presetHead(user, row),
      // Starters come without.
      value: row.value as PresetView['value'],
    })),
    hasMore: found.length > PRESET_PAGE,
  };
}

/** A preset on a rack that the person sees. @throws AppError (404) for any other */
export async function readPreset(user: SignedIn, id: string) {
  const [row, racks] = await Promise.all([findPreset(id), racksOf(user)]);
  if (row && racks.some((rack) => rack.id === row.rack)) return row;
  throw new AppError(
    'preset.not-found',
    'It is not there any more, or it is on a rack you cannot see.',
    'Open the list again.',
    { kept: UNCHANGED, status: 404 },
  );
}

/** Of a shared rack everybody sees the entry that a variant belongs to. */
async function assertEntrySeen(user: SignedIn, rack: string, entryId: string): Promise<void> {
  const entry = await readEntry(user, entryId);
  if (rack.startsWith('person:') || entry.rack === STUDIO_RACK || entry.rack === rack) return;
  throw new AppError(
    'preset.entry-elsewhere',
    `Others on that rack cannot see “${entry.name}”, which is on the ${entry.rackName} rack.`,
    `Keep the variant on the ${entry.rackName} rack, or move the group first.`,
    { kept: UNKEPT, status: 409 },
  );
}

/** Puts a preset on a rack where the person may. @throws AppError where it cannot be kept */
export async function putOnRack(user: SignedIn, given: NewPreset): Promise<{ id: string }> {
  const { kind, rack, name } = given;
  const projects = (await listProjects(user.id)).map((project) => project.id);
  assertMayPublish(user, rack, projects, await readRules());
  await assertName(rack, name, UNKEPT);
  if ((await countPresets(rack, kind, name)) >= MOST_PRESETS)
    throw new AppError(
      'preset.too-many',
      `This rack has ${String(MOST_PRESETS)} ${plural(kind)} already, the most there may be.`,
      'Forget one that is not used any more, or use another rack.',
      { kept: UNKEPT, status: 409 },
    );
  const id = await storePreset(given);
  if (id !== null) return { id };
  throw nameTaken(kind, name, UNKEPT);
}

const nameTaken = (kind: PresetKind, name: string, kept: string): AppError =>
  new AppError(
    'preset.name-taken',
    `This rack has “${name}” among its ${plural(kind)} already.`,
    'Choose another name.',
    { kept, status: 409 },
  );

/** Keeps a value on a rack; one's own of the same kind and name is replaced. */
export async function keepPreset(user: SignedIn, given: PresetGiven): Promise<{ id: string }> {
  const entryId = entryOf(given.value);
  if (entryId !== null) await assertEntrySeen(user, given.rack, entryId);
  const made = await putOnRack(user, { ...given, authorId: user.id, entryId });
  if (entryId !== null) await askForSwatch(user, made.id, given.name);
  return made;
}

const entryOf = (value: PresetValue): string | null => ('entryId' in value ? value.entryId : null);

/** Has the picture of a variant or a starter drawn. */
export const askForSwatch = (user: SignedIn, presetId: string, name: string): Promise<void> =>
  tryToEnqueue(
    PRESET_SWATCH,
    { presetId },
    { title: `Picture of ${name}`, userId: user.id, key: presetId },
  );

async function editable(user: SignedIn, id: string) {
  const row = await readPreset(user, id);
  if (mayEdit(user, row.authorId)) return row;
  throw new AppError(
    'rights.preset',
    `“${row.name}” is somebody else’s.`,
    `Ask ${row.authorName}, an author or a librarian.`,
    { kept: UNCHANGED, status: 403 },
  );
}

/** Renames, describes, tags or moves a preset; what is left out stays. */
export async function arrangePreset(
  user: SignedIn,
  id: string,
  given: PresetArrangement,
): Promise<{ id: string }> {
  const row = await editable(user, id);
  if (given.rack !== undefined && given.rack !== row.rack) {
    const projects = (await listProjects(user.id)).map((project) => project.id);
    assertMayPublish(user, given.rack, projects, await readRules());
    if (row.entryId !== null) await assertEntrySeen(user, given.rack, row.entryId);
  }
  const { rack, name, description, tags } = given;
  await assertNewName(row, given, UNCHANGED);
  try {
    await changePreset(id, {
      ...(rack === undefined ? {} : { rack }),
      ...(name === undefined ? {} : { name }),
      ...(description === undefined ? {} : { description }),
      ...(tags === undefined ? {} : { tags }),
    });
  } catch (error) {
    if (isAlreadyThere(error)) throw nameTaken(row.kind, name ?? row.name, UNCHANGED);
    throw error;
  }
  return { id };
}

/** Copies a preset to another rack. */
export async function copyPreset(
  user: SignedIn,
  id: string,
  { rack, name }: { readonly rack: string; readonly name: string },
): Promise<{ id: string }> {
  const row = await readPreset(user, id);
  if (row.entryId !== null) await assertEntrySeen(user, rack, row.entryId);
  const { kind, description, tags, value, entryId, swatchHash } = row;
  return putOnRack(user, {
    ...{ kind, description, tags, value, entryId, swatchHash },
    ...{ rack, name, authorId: user.id },
  });
}

/** Takes a preset off its rack for good. */
export async function forgetPreset(user: SignedIn, id: string): Promise<{ id: string }> {
  await editable(user, id);
  await removePreset(id);
  return { id };
}
