import { openMaterial, openRevision } from '../contract/materials';
import type { StateView } from '../contract/states';
import { AppError } from '../core/base/diagnostic';
import type { SeenState } from '../core/compare/state-changes';
import { squareCamera } from '../core/evaluate/camera';
import { boardAt, changeNode } from '../core/edit/board';
import { isMark } from '../core/edit/marks';
import type { NetworkDocument } from '../core/graph/document';
import { takeEverywhere } from '../core/releases/outlook';
import { readRelease } from './placing';
import { read } from './query-client';
import { stores } from './stores';

/** One side of a comparison. */
export type Side =
  | { readonly of: 'now' }
  /** As it was so many steps ago. */
  | { readonly of: 'before'; readonly steps: number }
  | { readonly of: 'state'; readonly id: string }
  | { readonly of: 'revision'; readonly number: number }
  /** As it is now, the chosen nodes off. */
  | { readonly of: 'without'; readonly nodes: readonly string[] }
  /** As it is now, the dials of the chosen groups at home. */
  | { readonly of: 'home'; readonly nodes: readonly string[] }
  | { readonly of: 'release'; readonly entryId: string; readonly version: string }
  | { readonly of: 'material'; readonly id: string };

/** A side as text, the same for the same side. */
export const sideKey = (side: Side): string => JSON.stringify(side);

/** Whether a side follows what is edited. */
export const isLive = ({ of }: Side): boolean =>
  of === 'now' || of === 'without' || of === 'home' || of === 'release';

type Part = Pick<SeenState, 'document' | 'model'>;
const here = (): Part => {
  const { document, modelId } = stores.document.getState();
  return { document, model: modelId };
};

/** The open board with some of its nodes changed. */
function withNodes(
  nodes: readonly string[],
  change: Parameters<typeof changeNode>[3],
): NetworkDocument {
  const { document } = stores.document.getState();
  const board = boardAt(document, stores.view.getState().path);
  return nodes
    .filter((id) => !isMark(id))
    .reduce((whole, id) => changeNode(whole, board, id, change), document);
}

async function readPart(side: Side, states: readonly StateView[]): Promise<Part> {
  const { materialId, past, modelId } = stores.document.getState();
  switch (side.of) {
    case 'now':
      return here();
    case 'before':
      return { document: (past.at(-side.steps) ?? here()).document, model: modelId };
    case 'without':
      return { ...here(), document: withNodes(side.nodes, (node) => ({ ...node, off: true })) };
    case 'home':
      return {
        ...here(),
        document: withNodes(side.nodes, (node) =>
          node.group === undefined ? node : { ...node, values: {} },
        ),
      };
    case 'release': {
      const placed = await readRelease(side.entryId, side.version);
      return { ...here(), document: takeEverywhere(here().document, placed).document };
    }
    case 'material': {
      const other = await read(openMaterial, { params: { id: side.id } });
      return { document: other.document, model: other.modelId };
    }
    case 'revision': {
      const params = { id: materialId, number: String(side.number) };
      const opened = await read(openRevision, { params });
      return { document: opened.document, model: modelId };
    }
    case 'state': {
      const state = states.find(({ id }) => id === side.id);
      if (!state)
        throw new AppError('state.not-found', 'This state is not there any more.', 'Choose again.');
      const params = { id: materialId, number: String(state.revision) };
      return { document: (await read(openRevision, { params })).document, model: state.modelId };
    }
  }
}

/**
 * A side as it is to be painted.
 * @param own whether a kept state is seen from where it was kept; else from where the stage is
 * @throws ApiFailure, AppError; null while the stage shows nothing
 */
export async function readSide(
  side: Side,
  states: readonly StateView[],
  own: boolean,
): Promise<SeenState | null> {
  const { camera } = stores.view.getState();
  const part = await readPart(side, states);
  const kept = side.of === 'state' ? states.find(({ id }) => id === side.id) : undefined;
  const from = own && kept ? kept.camera : camera;
  return from && { ...part, camera: squareCamera(from) };
}
