import type { NodeId, ResultKey } from '../base/ids';
import { own } from '../base/own';
import { describePorts, findGroupDefinition } from '../compile/catalogue';
import type { CompiledNetwork } from '../compile/compile';
import { topologicalOrder } from '../compile/order';
import { INPUT_EDGE, OUTPUT_EDGE } from '../graph/document';
import type {
  GroupDefinition,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
} from '../graph/document';
import { outputKey } from '../graph/result-key';

/** Marks what is added for measuring; no id of a document holds it. */
const MARK = '~';
const without = (node: NodeId, strand: string): NodeId => `${node}${MARK}${strand}`;
const plain = (group: string): string => `${group}${MARK}plain`;

/** A board with, for each strand that arrives at a node, that node again without the strand. */
function withCopies({ nodes, strands, ...network }: Network): Network {
  const arriving = new Map<string, Strand[]>();
  for (const strand of strands)
    arriving.set(strand.to.node, [...(arriving.get(strand.to.node) ?? []), strand]);
  const copies = nodes.flatMap((node) =>
    (arriving.get(node.id) ?? []).map((missing) => ({
      node: {
        ...node,
        id: without(node.id, missing.id),
        ...(node.group === undefined ? {} : { group: plain(node.group) }),
      },
      strands: (arriving.get(node.id) ?? [])
        .filter((strand) => strand !== missing)
        .map((strand) => ({
          ...strand,
          id: `${strand.id}${MARK}${missing.id}`,
          to: { ...strand.to, node: without(node.id, missing.id) },
        })),
    })),
  );
  return {
    ...network,
    nodes: [...nodes, ...copies.map(({ node }) => node)],
    strands: [...strands, ...copies.flatMap((copy) => copy.strands)],
  };
}

/** Dials drive the copies of a node as they drive the node. */
function drivingCopies(group: GroupDefinition): GroupDefinition {
  const copiesOf = (node: NodeId): readonly NodeId[] =>
    group.network.strands.filter(({ to }) => to.node === node).map(({ id }) => without(node, id));
  return {
    ...group,
    network: withCopies(group.network),
    dials: group.dials.map((dial) => ({
      ...dial,
      drives: dial.drives.flatMap((drive) => [
        drive,
        ...copiesOf(drive.node).map((node) => ({ ...drive, node })),
      ]),
    })),
  };
}

/** A group in which groups inside are those without copies, too. */
const asPlain = (group: GroupDefinition): GroupDefinition => ({
  ...group,
  id: plain(group.id),
  network: {
    ...group.network,
    nodes: group.network.nodes.map((node) =>
      node.group === undefined ? node : { ...node, group: plain(node.group) },
    ),
  },
});

/**
 * A document that computes the same, and beside it every node without each of the strands that
 * arrive at it: what those make is what a branch is compared by.
 */
export function documentForShares(document: NetworkDocument): NetworkDocument {
  const groups = Object.values(document.groups).flatMap((group) => [
    [group.id, drivingCopies(group)] as const,
    [plain(group.id), asPlain(group)] as const,
  ]);
  return {
    ...document,
    network: withCopies(document.network),
    groups: Object.fromEntries(groups),
  };
}

/** The share of a strand and of an output in what a surface is at some points. */
export interface BranchShares {
  /** By result key: of each output, one number for each point, 0–1. */
  readonly outputs: ReadonlyMap<ResultKey, readonly number[]>;
  /** By `strandShareKey`. */
  readonly strands: ReadonlyMap<string, readonly number[]>;
}
/** The key of a strand on the board at the end of a path. */
export const strandShareKey = (path: readonly NodeId[], strand: string): string =>
  `${path.join('/')}|${strand}`;

/** The values of every output that is needed, by its result key: lanes of points. */
type Values = (key: ResultKey) => readonly Float32Array[];

/** All results that `measureShares` reads. */
export function keysForShares(
  document: NetworkDocument,
  path: readonly NodeId[] = [],
  { nodes, strands }: Network = document.network,
): readonly ResultKey[] {
  return nodes.flatMap((node) => {
    const outputs = describePorts(document, node)?.outputs ?? [];
    const ids = [
      node.id,
      ...strands.filter(({ to }) => to.node === node.id).map(({ id }) => without(node.id, id)),
    ];
    const own = ids.flatMap((id) => outputs.map((output) => outputKey([...path, id], output.id)));
    const group = findGroupDefinition(document, node);
    const inside = group ? keysForShares(document, [...path, node.id], group.network) : [];
    return [...own, ...inside];
  });
}

/**
 * How far two values are apart at a point, over all lanes. A number beside a colour or a vector
 * stands in each of its lanes, as along a strand: without a branch a node may give another kind.
 */
function apart(a: readonly Float32Array[], b: readonly Float32Array[], point: number): number {
  const lane = (of: readonly Float32Array[], k: number): number =>
    (of.length === 1 ? of[0] : of[k])?.[point] ?? 0;
  let sum = 0;
  for (let k = 0; k < Math.max(a.length, b.length); k++) {
    const distance = Math.abs(lane(a, k) - lane(b, k));
    if (Number.isFinite(distance)) sum += distance;
  }
  return sum;
}

/** Parts the share of a surface among all that it is made of. */
class ShareWalk {
  readonly outputs = new Map<ResultKey, readonly number[]>();
  readonly strands = new Map<string, readonly number[]>();
  private readonly none: readonly number[];

  constructor(
    private readonly document: NetworkDocument,
    private readonly values: Values,
    private readonly points: number,
  ) {
    this.none = Array.from({ length: points }, () => 0);
  }

  /** @param ends the share of what each end of the board gives */
  visit(
    path: readonly NodeId[],
    network: Network,
    ends: (input: string) => readonly number[],
  ): void {
    for (const strand of network.strands)
      if (strand.to.node === OUTPUT_EDGE) this.pass(path, strand, ends(strand.to.input));
    const byId = new Map(network.nodes.map((node) => [node.id, node]));
    for (const id of [...topologicalOrder(network).order].reverse()) {
      const node = byId.get(id);
      if (!node) continue;
      this.partAmong(node, path, network);
      const group = findGroupDefinition(this.document, node);
      if (group)
        this.visit([...path, id], group.network, (output) => this.shareOf([...path, id], output));
    }
  }

  private shareOf(path: readonly NodeId[], output: string): readonly number[] {
    return this.outputs.get(outputKey([...path], output)) ?? this.none;
  }

  /** Gives a strand its share, and the output it comes from as much more. */
  private pass(path: readonly NodeId[], { id, from }: Strand, share: readonly number[]): void {
    this.strands.set(strandShareKey(path, id), share);
    if (from.node === INPUT_EDGE) return;
    const key = outputKey([...path, from.node], from.output);
    const before = this.outputs.get(key) ?? this.none;
    this.outputs.set(
      key,
      before.map((each, point) => each + (share[point] ?? 0)),
    );
  }

  /** Parts the share of a node among the strands that arrive at it. */
  private partAmong(node: NodeInstance, path: readonly NodeId[], network: Network): void {
    const arriving = network.strands.filter(({ to }) => to.node === node.id);
    const given = arriving.map(() => [...this.none]);
    for (const { id: output } of describePorts(this.document, node)?.outputs ?? []) {
      const share = this.shareOf([...path, node.id], output);
      if (share.every((each) => each === 0)) continue;
      const weights = this.weigh(node, path, output, arriving);
      for (let point = 0; point < this.points; point++) {
        const sum = weights.reduce((total, weight) => total + (weight[point] ?? 0), 0);
        if (sum === 0) continue;
        given.forEach((into, k) => {
          const part = (weights[k]?.[point] ?? 0) / sum;
          into[point] = (into[point] ?? 0) + (share[point] ?? 0) * part;
        });
      }
    }
    arriving.forEach((strand, k) => {
      this.pass(path, strand, given[k] ?? this.none);
    });
  }

  /** How far an output moves at each point when each of the strands is missing. */
  private weigh(
    node: NodeInstance,
    path: readonly NodeId[],
    output: string,
    arriving: readonly Strand[],
  ): readonly (readonly number[])[] {
    const whole = this.values(outputKey([...path, node.id], output));
    return arriving.map(({ id }) => {
      const missing = this.values(outputKey([...path, without(node.id, id)], output));
      return this.none.map((_, point) => apart(whole, missing, point));
    });
  }
}

/**
 * What each branch contributes to the finished surface at some points: at every node its share is
 * parted among the strands that arrive, by how far the node's value moves when the strand is
 * missing; from the surface (1) back to the sources. Where no strand moves anything, nothing gets
 * through and all above has 0.
 */
export function measureShares(
  document: NetworkDocument,
  values: Values,
  points: number,
): BranchShares {
  const walk = new ShareWalk(document, values, points);
  const all = Array.from({ length: points }, () => 1);
  walk.visit([], document.network, () => all);
  return { outputs: walk.outputs, strands: walk.strands };
}

/** Values by result key out of what a program wrote. */
export function valuesByKey(
  { slots }: Pick<CompiledNetwork, 'slots'>,
  lanes: readonly Float32Array[],
): Values {
  const known = Object.fromEntries(
    slots.map(({ key, first, lanes: width }) => [key, lanes.slice(first, first + width)]),
  );
  return (key) => own(known, key) ?? [];
}
