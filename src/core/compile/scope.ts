import { sourceGroup } from './settings';
import { INPUT_EDGE } from '../graph/document';
import type { GroupDefinition, Network, NodeInstance, Strand } from '../graph/document';
import type { Lowered } from './convert';

/** One open board: the material's own network, or a group's inside one of its nodes. */
export interface Scope {
  readonly path: readonly string[];
  readonly network: Network;
  readonly group: GroupDefinition | null;
  readonly inputs: ReadonlyMap<string, Lowered>;
  readonly outputs: Map<string, Lowered>;
  readonly arriving: ReadonlyMap<string, readonly Strand[]>;
  /** All that arrives at the inputs of the group that take many. */
  readonly lists: ReadonlyMap<string, readonly Lowered[]>;
  /** The inputs and dials of the group that a strand feeds from outside. */
  readonly fed: ReadonlySet<string>;
}

const NOTHING: Pick<Scope, 'lists' | 'fed'> = { lists: new Map(), fed: new Set() };

/** Opens a board for lowering: strands sorted by the input they enter, nothing computed yet. */
export function makeScope(
  path: readonly string[],
  network: Network,
  group: GroupDefinition | null,
  inputs: ReadonlyMap<string, Lowered>,
  { lists, fed }: Pick<Scope, 'lists' | 'fed'> = NOTHING,
): Scope {
  const arriving = new Map<string, Strand[]>();
  for (const strand of network.strands) {
    const key = `${strand.to.node}/${strand.to.input}`;
    arriving.set(key, [...(arriving.get(key) ?? []), strand]);
  }
  for (const strands of arriving.values())
    strands.sort((x, y) => x.order - y.order || (x.id < y.id ? -1 : 1));
  return { path, network, group, inputs, outputs: new Map(), arriving, lists, fed };
}

/**
 * What a strand brings; undefined when it comes from an input of a group that has neither strand
 * nor fallback.
 */
export function findSource(scope: Scope, strand: Strand): Lowered | undefined {
  return strand.from.node === INPUT_EDGE
    ? scope.inputs.get(strand.from.output)
    : scope.outputs.get(`${strand.from.node}/${strand.from.output}`);
}

/** All that arrives at an input, in order, with the strands it comes by. */
export function wiredTo(
  scope: Scope,
  node: string,
  input: string,
): readonly { value: Lowered; strand: Strand }[] {
  return (scope.arriving.get(`${node}/${input}`) ?? []).flatMap((strand) => {
    const list = strand.from.node === INPUT_EDGE && scope.lists.get(strand.from.output);
    if (list) return list.map((value) => ({ value, strand }));
    const value = findSource(scope, strand);
    return value ? [{ value, strand }] : [];
  });
}

/** Whether a strand brings something to an input that begins at a node, here or further out. */
export const isFed = (scope: Scope, node: string, input: string): boolean =>
  (scope.arriving.get(`${node}/${input}`) ?? []).some(
    (strand) =>
      (strand.from.node !== INPUT_EDGE || scope.fed.has(strand.from.output)) &&
      findSource(scope, strand)?.absent !== true,
  );

/** Whether something arrives at an input that is not absent. */
export const arrives = (scope: Scope, node: string, input: string): boolean =>
  wiredTo(scope, node, input).some(({ value }) => value.absent !== true);

/** Where the values of a node stand in the document, as a JSON pointer's steps. */
export const valuesPath = (scope: Scope, node: NodeInstance): readonly (string | number)[] => [
  ...(scope.group ? ['groups', sourceGroup(scope.group.id), 'network'] : ['network']),
  'nodes',
  scope.network.nodes.indexOf(node),
  'values',
];
