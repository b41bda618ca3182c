import type { NetworkDocument } from '@/core/graph/document';
import type { VariantValue } from '@/core/presets/kinds';
import { SHOWN, showcase } from '@/core/releases/showcase';
import { storeBlob } from '@/db/queries/blobs';
import { findNewest } from '@/db/queries/library';
import { findModel } from '@/db/queries/models';
import { findPreset, setPresetSwatch } from '@/db/queries/presets';
import { prepareImages } from './images';
import { SHOWN_ON } from './reference-models';
import { prepareModel, renderSwatch } from './render';
import { readStarter } from './starters';
import { findRelease } from './stored';

interface Shown {
  readonly document: NetworkDocument;
  readonly modelId: string;
}

/** A variant as the newest release of its entry shows it; null where that cannot be read. */
async function shownVariant({ entryId, values }: VariantValue): Promise<Shown | null> {
  const newest = await findNewest(entryId);
  const release = newest && (await findRelease(entryId, newest.version));
  if (!release || release.fault !== null) return null;
  const { network, ...document } = showcase(release.groups);
  const nodes = network.nodes.map((node) => (node.id === SHOWN ? { ...node, values } : node));
  return { document: { ...document, network: { ...network, nodes } }, modelId: SHOWN_ON };
}

/** Draws the picture of a variant or a starter; of what is gone, or drawn by its value, none. */
export async function drawPresetSwatch(presetId: string, userId: string): Promise<void> {
  const value = (await findPreset(presetId))?.value;
  if (!value) return;
  const shown =
    'entryId' in value
      ? await shownVariant(value)
      : 'document' in value
        ? readStarter(value)
        : null;
  const model = shown && (await findModel(userId, shown.modelId));
  if (!model) return;
  const prepared = await prepareModel(model);
  await prepareImages(shown.document);
  const picture = renderSwatch(shown.document, prepared);
  await setPresetSwatch(presetId, await storeBlob(picture, 'image/png'));
}
