import type { Camera } from '../evaluate/camera';
import type { NetworkDocument } from '../graph/document';
import type { DocumentChange } from './change';
import { listChanges } from './document-changes';

/** What decides a picture: a document, the model it is on, and where it is seen from. */
export interface SeenState {
  readonly document: NetworkDocument;
  /** The id of the model. */
  readonly model: string;
  readonly camera: Camera;
}
/** One thing that differs between two states, which can be put back alone. */
export interface StateChange extends Omit<DocumentChange, 'undo'> {
  readonly undo: (after: SeenState) => SeenState;
}

const SCENE = { kind: 'scene', board: null, node: null, place: 'Stage' } as const;
const placed = ({ eye }: Camera): string => `eye at ${eye.map((x) => x.toPrecision(4)).join(', ')}`;
const isSameCamera = (a: Camera, b: Camera): boolean =>
  a.fieldRad === b.fieldRad &&
  a.aspect === b.aspect &&
  a.eye.every((x, k) => x === b.eye[k]) &&
  a.target.every((x, k) => x === b.target[k]);

/**
 * Everything that differs between two states: what differs between their documents, the model and
 * the camera.
 * @param nameOf what a model is called
 */
export function listStateChanges(
  before: SeenState,
  after: SeenState,
  nameOf: (model: string) => string,
): readonly StateChange[] {
  const inside = listChanges(before.document, after.document).map(
    ({ undo, ...change }): StateChange => ({
      ...change,
      undo: (state) => ({ ...state, document: undo(state.document) }),
    }),
  );
  const model: StateChange = {
    ...SCENE,
    what: 'model',
    before: nameOf(before.model),
    after: nameOf(after.model),
    undo: (state) => ({ ...state, model: before.model }),
  };
  const camera: StateChange = {
    ...SCENE,
    what: 'camera',
    before: placed(before.camera),
    after: placed(after.camera),
    undo: (state) => ({ ...state, camera: before.camera }),
  };
  return [
    ...inside,
    ...(before.model === after.model ? [] : [model]),
    ...(isSameCamera(before.camera, after.camera) ? [] : [camera]),
  ];
}
