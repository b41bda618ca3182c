import { openSettings } from './settings';
import { canonicalJson } from '../graph/canonical';
import { isFormula, isRamp, isTriple } from '../graph/document';
import type {
  GroupDefinition,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
} from '../graph/document';
import { findNodeDefinition } from './catalogue';

/**
 * Typed values that decide what is computed: formulas, which stops are open, three numbers where
 * one would do, and those that replace coordinates.
 */
function structuralValues(node: NodeInstance): readonly string[] {
  const inputs = findNodeDefinition(node)?.inputs ?? {};
  const open = Object.entries(node.values).flatMap(([id, value]) =>
    isRamp(value)
      ? value.stops.flatMap((stop) =>
          (stop.open ?? []).map((aspect) => `${id}.${stop.id}.${aspect}`),
        )
      : [],
  );
  return [
    ...open,
    ...Object.entries(node.values)
      .filter(([id, value]) => {
        const port = inputs[id];
        return (
          port !== undefined &&
          ((port.kind === 'flex' && isTriple(value)) ||
            isFormula(value) ||
            typeof port.default === 'string')
        );
      })
      .map(([id, value]) => (isFormula(value) ? `${id}: ${value.formula}` : id)),
  ].sort();
}

/** Small numbers for texts, the same for the same text, as long as the thread lives. */
const numbers = new Map<string, number>();
function numberOf(text: string): number {
  const known = numbers.get(text);
  if (known !== undefined) return known;
  numbers.set(text, numbers.size);
  return numbers.size - 1;
}

/**
 * Remembers what is made of a part of a document. Documents are never changed in place, and an
 * edit shares with the document before all that it did not touch, so that only that is made anew.
 */
function remembered<K extends object>(make: (part: K) => number): (part: K) => number {
  const known = new WeakMap<K, number>();
  return (part) => {
    const before = known.get(part);
    if (before !== undefined) return before;
    const made = make(part);
    known.set(part, made);
    return made;
  };
}

const nodeNumber = remembered((node: NodeInstance) =>
  numberOf(
    canonicalJson({
      id: node.id,
      type: node.type,
      version: node.version,
      options: node.options,
      limited: node.limited ?? false,
      ...(node.off ? { off: true } : {}),
      ...(node.amount === undefined ? {} : { hasAmount: true }),
      ...(node.group === undefined ? {} : { group: node.group }),
      values: structuralValues(node),
    }),
  ),
);
const strandNumber = remembered(({ bends: _bends, ...strand }: Strand) =>
  numberOf(canonicalJson(strand)),
);
const nodesNumber = remembered((nodes: readonly NodeInstance[]) =>
  numberOf(nodes.map(nodeNumber).join()),
);
const strandsNumber = remembered((strands: readonly Strand[]) =>
  numberOf(strands.map(strandNumber).join()),
);
const networkText = ({ nodes, strands }: Network): string =>
  `${String(nodesNumber(nodes))}/${String(strandsNumber(strands))}`;

const groupNumber = remembered((group: GroupDefinition) =>
  numberOf(
    canonicalJson({
      id: group.id,
      inputs: group.inputs.map(({ id, kind, fallback, unwired, many }) => ({
        id,
        kind,
        fallback: fallback !== undefined,
        ...(unwired === undefined ? {} : { unwired }),
        ...(many ? { many } : {}),
      })),
      outputs: group.outputs.map(({ id, kind }) => ({ id, kind })),
      dials: group.dials.map((dial) => ({
        id: dial.id,
        kind: dial.kind,
        drives: dial.drives.map(({ node, input, law, low }) => ({
          node,
          input,
          law,
          ...(law === 'blend' ? { begins: low !== undefined } : {}),
        })),
      })),
      network: networkText(group.network),
    }),
  ),
);

/**
 * Equal, within a thread, for two documents that differ only in values, names and places, so that a
 * compiled program serves both. After an edit it costs what was edited, and a look at each node.
 */
export function structureKey(document: NetworkDocument): string {
  const { network, groups } = openSettings(document);
  return `${networkText(network)} ${Object.values(groups).map(groupNumber).join()}`;
}
