import { describePorts } from '../compile/catalogue';
import { setAmount } from '../edit/amounts';
import { getNetwork } from '../edit/board';
import type { BoardId, NetworkDocument, NodeInstance } from '../graph/document';
import { OUTPUT_EDGE } from '../graph/document';
import { outputKey } from '../graph/result-key';
import type { SamplePoints } from '../mesh/sample-points';
import { seePoints, squareCamera } from './camera';
import type { Camera } from './camera';
import type { LoadedModel } from './loaded-model';
import { paintValues } from './picture';
import type { Picture } from './picture';
import { EvaluationSession } from './session';

const LAYER = 'surface.layer';

/** How much of the model a surface is seen on at the end of a board, through all layers. */
export interface SurfaceShare {
  readonly node: string;
  /** Mean over the model, 0–1. */
  readonly share: number;
  /** What the layers that lay it over others cover by themselves, whatever lies on them. */
  readonly covers: number;
}

interface Part {
  readonly node: string;
  /** The layers that are passed from the end down to it, and on which side. */
  readonly passes: readonly { readonly layer: string; readonly over: boolean }[];
}

/** All ways from the surface a board ends in down to surfaces that are no layers. */
function listParts(document: NetworkDocument, board: BoardId): readonly Part[] {
  const { nodes, strands } = getNetwork(document, board);
  const byId = new Map(nodes.map((node) => [node.id, node]));
  const givesSurface = (node: NodeInstance, output: string): boolean =>
    describePorts(document, node)?.outputs.find((port) => port.id === output)?.kind === 'surface';
  const end = strands.find(({ from, to }) => {
    const node = byId.get(from.node);
    return to.node === OUTPUT_EDGE && node !== undefined && givesSurface(node, from.output);
  });
  const parts: Part[] = [];
  const open: Part[] = end ? [{ node: end.from.node, passes: [] }] : [];
  // Surfaces that are used many times over make many ways; beyond these nobody reads on.
  for (let at = open.pop(); at && parts.length < MOST_PARTS; at = open.pop()) {
    const { node, passes } = at;
    if (byId.get(node)?.type !== LAYER) {
      parts.push(at);
      continue;
    }
    const isOff = byId.get(node)?.off === true;
    for (const [input, over] of [
      ['under', false],
      ['over', true],
    ] as const) {
      const strand = strands.find(({ to }) => to.node === node && to.input === input);
      if (!strand || (isOff && over)) continue;
      const passed = isOff ? passes : [...passes, { layer: node, over }];
      open.push({ node: strand.from.node, passes: passed });
    }
  }
  return parts;
}
const MOST_PARTS = 64;

/** How much of one surface is seen, and laid, at each point. */
interface SeenPart {
  readonly node: string;
  readonly seen: Float32Array;
  readonly laid: Float32Array;
}

/** Topmost first. */
function seenParts(
  model: LoadedModel,
  document: NetworkDocument,
  board: BoardId,
  path: readonly string[],
  points: SamplePoints,
): readonly SeenPart[] {
  const parts = listParts(document, board);
  const layers = [...new Set(parts.flatMap(({ passes }) => passes.map(({ layer }) => layer)))];
  const keys = layers.map((layer) => outputKey([...path, layer], 'coverage'));
  const session = new EvaluationSession({ surface: false, taps: keys, antialias: [] });
  // What an amount leaves of a layer is counted here; its own coverage is that of all of it.
  const whole = layers.reduce((now, layer) => setAmount(now, board, layer, null), document);
  const lanes = session.evaluate(whole, model.mesh, points, model.maps, { isExact: true });
  const kept = new Map(
    getNetwork(document, board).nodes.map(({ id, amount = 1 }) => [id as string, amount]),
  );
  const coverage = new Map(layers.map((layer, k) => [layer, lanes[k]]));
  const covers = (layer: string, k: number): number =>
    (coverage.get(layer)?.[k] ?? 0) * Math.min(1, kept.get(layer) ?? 1);
  const found = new Map<string, SeenPart>();
  for (const { node, passes } of parts) {
    const made = found.get(node) ?? {
      node,
      seen: new Float32Array(points.count),
      laid: new Float32Array(points.count),
    };
    found.set(node, made);
    for (let k = 0; k < points.count; k++) {
      let [seen, laid] = [1, 1];
      for (const { layer, over } of passes) {
        const share = covers(layer, k);
        seen *= over ? share : 1 - share;
        if (over) laid *= share;
      }
      made.seen[k] = (made.seen[k] ?? 0) + seen;
      made.laid[k] = (made.laid[k] ?? 0) + laid;
    }
  }
  return [...found.values()];
}

/**
 * What of each surface is seen at the end of a board once all layers lie over each other: at every
 * point the product of what the layers above leave of it. Topmost first.
 * @param path the group nodes that lead to the board
 * @throws CompileError when the document has errors
 */
export function surfaceShares(
  model: LoadedModel,
  document: NetworkDocument,
  board: BoardId,
  path: readonly string[],
): readonly SurfaceShare[] {
  const mean = (values: Float32Array): number =>
    values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
  return seenParts(model, document, board, path, model.uniform).map(({ node, seen, laid }) => ({
    node,
    share: mean(seen),
    covers: Math.min(1, mean(laid)),
  }));
}

/** Where a surface is still seen through all layers: white where all of it is, black where none. */
export interface SharePicture {
  readonly node: string;
  readonly picture: Picture;
}

/**
 * The same as pictures, square, as a camera sees the model. Topmost first.
 * @param size of a picture, pixels a side
 * @throws CompileError when the document has errors
 */
export function paintShares(
  model: LoadedModel,
  document: NetworkDocument,
  board: BoardId,
  path: readonly string[],
  camera: Camera,
  size: number,
): readonly SharePicture[] {
  const sight = seePoints(model.analysis, squareCamera(camera), size, size);
  return seenParts(model, document, board, path, sight.points).map(({ node, seen }) => ({
    node,
    picture: paintValues(sight, [seen], false),
  }));
}
