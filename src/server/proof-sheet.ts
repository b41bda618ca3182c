import { own } from '@/core/base/own';
import { findCardPath } from '@/core/edit/group-uses';
import { GroupPainter } from '@/core/notes/group-painter';
import type { Picture } from '@/core/evaluate/picture';
import type { ProofModel } from '@/core/evaluate/proof';
import { beginSheet, joinPictures, sheetTasks, withPainted } from '@/core/evaluate/proof-sheet';
import type { ProofSheet } from '@/core/evaluate/proof-sheet';
import { encodeRgba } from '@/core/exchange/png';
import type { GroupDefinition, NetworkDocument } from '@/core/graph/document';
import type { SheetRequest } from '@/contract/library';
import { storeBlob } from '@/db/queries/blobs';
import { keepSheet } from '@/db/queries/library';
import { findMaterial } from '@/db/queries/materials';
import { prepareImages } from './images';
import type { JobContext } from './jobs/define-job';
import { referenceModels } from './reference-models';
import { SHOWN, showcase } from '@/core/releases/showcase';
import { findRevision } from './stored';

/** Of a picture on a proof sheet, pixels a side. */
const SIZE = 96;

/**
 * Makes the proof sheet of a release from the revision it was published from, and keeps it with it.
 * Nothing is made of a group that is not there any more, or that has nothing to set.
 */
export async function makeSheet(
  userId: string,
  request: SheetRequest,
  report: JobContext['report'],
): Promise<void> {
  const [material, revision] = await Promise.all([
    findMaterial(userId, request.materialId),
    findRevision(request.materialId, request.revision),
  ]);
  const group = own(revision?.document.groups, request.groupId);
  if (!material || !revision || !group) return;
  await prepareImages(revision.document);
  const models = await referenceModels(userId, material.modelId);
  const painted = await paintSheet(revision.document, group, models, report);
  if (painted.sheet.shares.length === 0) return;
  const { width, height, pixels } = joinPictures(painted.pictures, SIZE);
  const hash = await storeBlob(encodeRgba(width, height, pixels), 'image/png');
  await keepSheet(request, painted.sheet, hash);
}

async function paintSheet(
  document: NetworkDocument,
  group: GroupDefinition,
  models: readonly ProofModel[],
  report: JobContext['report'],
): Promise<{ readonly sheet: ProofSheet; readonly pictures: readonly (Picture | undefined)[] }> {
  const painter = new GroupPainter();
  const card = findCardPath(document, group.id);
  const shown = card ? document : showcase({ root: group.id, definitions: document.groups });
  const names = models.map(({ name }) => name);
  let sheet = beginSheet(group, names, SIZE);
  const pictures: Picture[] = [];
  const tasks = sheetTasks(sheet);
  for (const [k, task] of tasks.entries()) {
    const model = models[task.model];
    if (!model) continue;
    const made = painter.paintAll(
      { document: shown, path: card ?? [SHOWN], model, size: SIZE },
      task.settings,
    );
    made.forEach(({ picture }, n) => {
      pictures[task.first + n] = picture;
    });
    sheet = withPainted(sheet, task, made);
    await report((k + 1) / tasks.length, `Painting “${sheet.lines[task.line]?.title ?? ''}”`);
  }
  return { sheet, pictures };
}
