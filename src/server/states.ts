import { randomUUID } from 'node:crypto';
import { AppError } from '@/core/base/diagnostic';
import { framingCamera, squareCamera } from '@/core/evaluate/camera';
import { MaterialPainter } from '@/core/evaluate/material-painter';
import { encodeRgba } from '@/core/exchange/png';
import { MOST_STATES } from '@/contract/states';
import type { StateGiven, StateView, StateWords } from '@/contract/states';
import { storeBlob } from '@/db/queries/blobs';
import { findMaterial } from '@/db/queries/materials';
import { findModel } from '@/db/queries/models';
import * as queries from '@/db/queries/states';
import type { SignedIn } from './authentication';
import { prepareImages } from './images';
import { tryToEnqueue } from './jobs/enqueue';
import { STATE_PICTURE } from './jobs/lanes';
import { materialNotFound } from './not-found';
import { prepareModel } from './render';
import { mayEdit } from './rights';
import { findRevision } from './stored';

const UNKEPT = 'Nothing was kept.';
/** Of a state's picture, pixels a side. */
const SIDE = 192;

async function assertSeen(user: SignedIn, materialId: string): Promise<void> {
  if (!(await findMaterial(user.id, materialId))) throw materialNotFound();
}

/** The kept states of a material, the earliest first. */
export async function listStates(
  user: SignedIn,
  materialId: string,
): Promise<{ states: StateView[] }> {
  await assertSeen(user, materialId);
  const rows = await queries.listStates(materialId);
  return {
    states: rows.map(({ authorId, materialId: _material, createdAt, ...row }) => ({
      ...row,
      createdAt: createdAt.toISOString(),
      mayEdit: mayEdit(user, authorId),
    })),
  };
}

/** Keeps the revision that something was published from, as its model is framed. */
export async function keepPublished(
  user: Pick<SignedIn, 'id'>,
  materialId: string,
  revision: number,
  name: string,
): Promise<void> {
  const material = await findMaterial(user.id, materialId);
  const model = material && (await findModel(user.id, material.modelId));
  if (!model || (await queries.countStates(materialId)) >= MOST_STATES) return;
  const { mesh } = (await prepareModel(model)).analysis;
  const camera = framingCamera(mesh.centre, mesh.size);
  const id = randomUUID();
  await queries.insertState({
    id,
    materialId,
    revision,
    modelId: model.id,
    camera,
    name: `Published as ${name}`.slice(0, 120),
    note: '',
    authorId: user.id,
  });
  await drawState(user.id, materialId, id);
}

/** @throws AppError where the material, its revision or the model is not there, or has too many */
export async function keepState(
  user: SignedIn,
  materialId: string,
  given: StateGiven,
): Promise<{ id: string }> {
  await assertSeen(user, materialId);
  if (!(await findRevision(materialId, given.revision)))
    throw new AppError(
      'state.no-revision',
      `This material has no revision ${String(given.revision)}.`,
      'Save it, then keep the state again.',
      { kept: UNKEPT, status: 409 },
    );
  if (!(await findModel(user.id, given.modelId)))
    throw new AppError('model.not-found', 'There is no such model.', 'Choose another model.', {
      kept: UNKEPT,
      status: 404,
    });
  if ((await queries.countStates(materialId)) >= MOST_STATES)
    throw new AppError(
      'state.too-many',
      `This material has ${String(MOST_STATES)} states already, the most there may be.`,
      'Forget one that is not needed any more.',
      { kept: UNKEPT, status: 409 },
    );
  const id = randomUUID();
  await queries.insertState({ ...given, id, materialId, authorId: user.id });
  const title = `Picture of ${given.name}`;
  await tryToEnqueue(STATE_PICTURE, { materialId, stateId: id }, { title, userId: user.id });
  return { id };
}

async function readState(user: SignedIn, materialId: string, id: string) {
  const row = await queries.findState(user.id, materialId, id);
  if (row) return row;
  throw new AppError('state.not-found', 'This state is not there any more.', 'Open them again.', {
    status: 404,
  });
}

async function assertMayEdit(user: SignedIn, materialId: string, id: string): Promise<void> {
  const { authorId } = await readState(user, materialId, id);
  if (mayEdit(user, authorId)) return;
  throw new AppError(
    'rights.state',
    'Somebody else kept this state; authors and librarians may change it, too.',
    'Keep one of your own.',
    { kept: 'Nothing was changed.', status: 403 },
  );
}

export async function tellState(
  user: SignedIn,
  materialId: string,
  id: string,
  words: StateWords,
): Promise<{ id: string }> {
  await assertMayEdit(user, materialId, id);
  await queries.changeState(id, words);
  return { id };
}

export async function forgetState(
  user: SignedIn,
  materialId: string,
  id: string,
): Promise<{ id: string }> {
  await assertMayEdit(user, materialId, id);
  await queries.removeState(id);
  return { id };
}

/** Draws what a state's camera sees; of what cannot be drawn any more there is no picture. */
export async function drawState(userId: string, materialId: string, id: string): Promise<void> {
  const state = await queries.findState(userId, materialId, id);
  const revision = state && (await findRevision(materialId, state.revision));
  const model = state && (await findModel(userId, state.modelId));
  if (!revision || !model) return;
  const prepared = await prepareModel(model);
  await prepareImages(revision.document);
  const { width, height, pixels } = new MaterialPainter(
    prepared,
    SIDE,
    squareCamera(state.camera),
  ).paint(revision.document);
  const pictureHash = await storeBlob(encodeRgba(width, height, pixels), 'image/png');
  await queries.changeState(id, { pictureHash });
}
