import { describePorts } from '../compile/catalogue';
import { setAmount } from '../edit/amounts';
import { getNetwork } from '../edit/board';
import type { BoardId, NetworkDocument, NodeInstance } from '../graph/document';
import { OUTPUT_EDGE } from '../graph/document';
import { outputKey } from '../graph/result-key';
import type { LoadedModel } from './loaded-model';
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
  const parts = listParts(document, board);
  const layers = [...new Set(parts.flatMap(({ passes }) => passes.map(({ layer }) => layer)))];
  const keys = layers.map((layer) => outputKey([...path, layer], 'coverage'));
  const points = model.uniform;
  const session = new EvaluationSession({ surface: false, taps: keys, antialias: [] });
  // What an amount leaves of a layer is counted here; its own coverage is that of all of it.
  const whole = layers.reduce((now, layer) => setAmount(now, board, layer, null), document);
  const lanes = session.evaluate(whole, model.mesh, points, model.maps);
  const kept = new Map(
    getNetwork(document, board).nodes.map(({ id, amount = 1 }) => [id as string, amount]),
  );
  const coverage = new Map(layers.map((layer, k) => [layer, lanes[k]]));
  const covers = (layer: string, k: number): number =>
    (coverage.get(layer)?.[k] ?? 0) * Math.min(1, kept.get(layer) ?? 1);
  const count = Math.max(1, points.count);
  const found = new Map<string, SurfaceShare>();
  for (const { node, passes } of parts) {
    let [seen, laid] = [0, 0];
    for (let k = 0; k < points.count; k++) {
      const shares = passes.map(({ layer, over }) =>
        over ? covers(layer, k) : 1 - covers(layer, k),
      );
      seen += shares.reduce((left, share) => left * share, 1);
      laid += passes.reduce((left, { over }, p) => (over ? left * (shares[p] ?? 1) : left), 1);
    }
    const before = found.get(node) ?? { node, share: 0, covers: 0 };
    found.set(node, {
      node,
      share: before.share + seen / count,
      covers: Math.min(1, before.covers + laid / count),
    });
  }
  return [...found.values()];
}
