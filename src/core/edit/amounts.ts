import { own } from '../base/own';
import { passedInput } from '../compile/bypass';
import { describePorts, findGroupDefinition, findNodeDefinition } from '../compile/catalogue';
import { getDialValue, getInputValue } from '../compile/uniforms';
import { AMOUNT } from '../graph/limits';
import { isTriple } from '../graph/document';
import type {
  InputValue,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
  Triple,
} from '../graph/document';
import { changeNode, freshId, getNetwork, strandIds, withNetwork } from './board';
import type { BoardId } from './board';
import { addNode } from './nodes';

const within = (amount: number): number => Math.min(AMOUNT[1], Math.max(AMOUNT[0], amount));

/**
 * Sets how much of what a node does is kept: 0 as if it were off, 1 all, up to 2 twice as much; of
 * a source, which passes nothing on, so many times what it gives. Its values stay as they are.
 * @param amount null: no overall amount any more
 */
export const setAmount = (
  document: NetworkDocument,
  board: BoardId,
  id: string,
  amount: number | null,
): NetworkDocument =>
  changeNode(document, board, id, ({ amount: _before, ...node }) =>
    amount === null ? node : { ...node, amount: within(amount) },
  );

/** The same of one dial of a card: 0 at home, 1 as it is set. */
export const setDialAmount = (
  document: NetworkDocument,
  board: BoardId,
  id: string,
  dial: string,
  amount: number | null,
): NetworkDocument =>
  changeNode(document, board, id, ({ amounts = {}, ...node }) => {
    const others = Object.fromEntries(Object.entries(amounts).filter(([each]) => each !== dial));
    const kept = amount === null ? others : { ...others, [dial]: within(amount) };
    return Object.keys(kept).length === 0 ? node : { ...node, amounts: kept };
  });

/** A dial's amount becomes part of its value; the look stays. */
export function settleDial(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  dial: string,
): NetworkDocument {
  const node = getNetwork(document, board).nodes.find((each) => each.id === id);
  const group = node && findGroupDefinition(document, node);
  const value =
    node &&
    getDialValue(
      node,
      group?.dials.find((each) => each.id === dial),
    );
  const bare = setDialAmount(document, board, id, dial, null);
  return value === undefined
    ? bare
    : changeNode(bare, board, id, (each) => ({
        ...each,
        values: { ...each.values, [dial]: value },
      }));
}

const isNumbers = (value: InputValue | undefined): value is number | Triple =>
  typeof value === 'number' || (value !== undefined && isTriple(value));
/** What an output gives that passes nothing on: all there is of opacity, else nothing. */
const emptyOf = (node: NodeInstance, output: string): number =>
  own(findNodeDefinition(node)?.outputs, output)?.quantity === 'opacity' ? 1 : 0;

/** All amounts of a node and of its dials become part of the network. */
export function settleAll(document: NetworkDocument, board: BoardId, id: string): NetworkDocument {
  const node = getNetwork(document, board).nodes.find((each) => each.id === id);
  const dialled = Object.keys(node?.amounts ?? {}).reduce(
    (now, dial) => settleDial(now, board, id, dial),
    document,
  );
  return node?.amount === undefined ? dialled : settleAmount(dialled, board, id);
}

/** Nodes that give what an unwired input counts as by itself. */
const READS: Readonly<Record<string, { readonly type: string; readonly output: string }>> = {
  position: { type: 'model.position', output: 'position' },
  normal: { type: 'model.normal', output: 'normal' },
  texture: { type: 'model.texture-coordinates', output: 'coordinates' },
};

const readOf = (name: unknown): (typeof READS)[string] | undefined =>
  typeof name === 'string' ? own(READS, name) : undefined;

/** What stands after a node for its amount, by what it mixes. */
const MIXERS = {
  surface: { type: 'surface.layer', from: 'under', to: 'over', amount: 'where', out: 'surface' },
  value: { type: 'math.mix', from: 'a', to: 'b', amount: 'amount', out: 'value' },
} as const;

/**
 * The overall amount of a node becomes nodes of the board: for each output that is used one that
 * mixes what goes in with what comes out. The look stays.
 */
export function settleAmount(
  document: NetworkDocument,
  board: BoardId,
  id: string,
): NetworkDocument {
  const node = getNetwork(document, board).nodes.find((each) => each.id === id);
  const { amount } = node ?? {};
  const ports = node && describePorts(document, node);
  const bare = setAmount(document, board, id, null);
  if (!node || !ports || amount === undefined || amount === 1 || node.off) return bare;
  return ports.outputs.reduce((current, output, k) => {
    const { strands } = getNetwork(current, board);
    const leaving = strands.filter(({ from }) => from.node === id && from.output === output.id);
    if (leaving.length === 0) return current;
    const isWired = (input: string): boolean =>
      strands.some(({ to }) => to.node === id && to.input === input);
    const passed = passedInput(node, ports, output, isWired);
    const source = strands.find(({ to }) => to.node === id && to.input === passed?.id);
    const typed = passed && !source ? getInputValue(node, passed.id) : undefined;
    const reads =
      passed && !source && typed === undefined ? readOf(passed.port?.default) : undefined;
    const mixer = output.kind === 'surface' ? MIXERS.surface : MIXERS.value;
    return insertMixer(current, board, {
      node,
      place: k,
      output: output.id,
      source: source ?? null,
      reads: reads ?? null,
      typed: isNumbers(typed) ? typed : emptyOf(node, output.id),
      leaving,
      mixer,
      amount,
    });
  }, bare);
}

interface Insertion {
  readonly node: NodeInstance;
  readonly place: number;
  readonly output: string;
  readonly source: Strand | null;
  /** The node that gives what is passed on where that is read from the model. */
  readonly reads: (typeof READS)[string] | null;
  /** What is passed on where no strand comes in. */
  readonly typed: InputValue;
  readonly leaving: readonly Strand[];
  readonly mixer: (typeof MIXERS)[keyof typeof MIXERS];
  readonly amount: number;
}

/** Puts a mixing node between an output and all that it feeds. */
function insertMixer(
  document: NetworkDocument,
  board: BoardId,
  { node, place, output, source, reads, typed, leaving, mixer, amount }: Insertion,
): NetworkDocument {
  const [x, y] = node.at;
  const options: Record<string, string> = mixer === MIXERS.value ? { limit: 'no' } : {};
  const at = [x + 170, y + 40 + place * 120] as const;
  const read = reads && addNode(document, board, reads.type, [x, y + 150]);
  const added = addNode(read?.document ?? document, board, mixer.type, at, undefined, options);
  const named = changeNode(added.document, board, added.id, (each) => ({
    ...each,
    name: 'Amount',
    values: {
      [mixer.amount]: amount,
      // Where no surface comes in there is clay, as without a strand.
      ...(source || reads || mixer === MIXERS.surface ? {} : { [mixer.from]: typed }),
    },
  }));
  const network = getNetwork(named, board);
  const moved = new Set(leaving.map((strand) => strand.id));
  const taken = strandIds(network);
  const lay = (from: Strand['from'], input: string): Strand => {
    const strand = freshId('s', taken);
    taken.add(strand);
    return { id: strand, from, to: { node: added.id, input }, order: 0 };
  };
  const next: Network = {
    ...network,
    strands: [
      ...network.strands.map((strand) =>
        moved.has(strand.id) ? { ...strand, from: { node: added.id, output: mixer.out } } : strand,
      ),
      ...(read && reads ? [lay({ node: read.id, output: reads.output }, mixer.from)] : []),
      ...(source ? [{ ...source, ...lay(source.from, mixer.from) }] : []),
      lay({ node: node.id, output }, mixer.to),
    ],
  };
  return withNetwork(named, board, next);
}
