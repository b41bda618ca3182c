import type { Diagnostic } from '../base/diagnostic';
import type { NetworkDocument } from '../graph/document';
import type { FindingPlace } from '../graph/finding-place';
import { changeNode, getNetwork, withGroup, withNetwork } from './board';

/** A way to be rid of a finding: what it does, in words, and the document without the fault. */
export interface FaultCure {
  readonly title: string;
  readonly apply: (document: NetworkDocument) => NetworkDocument;
}

const without = <T>(
  record: Readonly<Record<string, T>>,
  name: string,
): Readonly<Record<string, T>> =>
  Object.fromEntries(Object.entries(record).filter(([each]) => each !== name));

/**
 * What can be done about a finding by one press; null where only a person can decide. Nothing is
 * removed that is still of use: a broken strand, a value that no input takes, a choice that does
 * not exist.
 */
export function findFaultCure(
  { code }: Pick<Diagnostic, 'code'>,
  place: FindingPlace,
): FaultCure | null {
  const { board, node, strand, input, option, stop, dial } = place;
  if (strand !== undefined && code !== 'network.cycle' && code !== 'strand.quantity')
    return { title: 'Remove the strand', apply: (document) => removeStrand(document, place) };
  if (dial !== undefined && code.startsWith('drive.'))
    return { title: 'Remove the drive', apply: (document) => removeBrokenDrive(document, place) };
  if (node === undefined) return null;
  if (option !== undefined)
    return {
      title: 'Use the default choice',
      apply: (document) =>
        changeNode(document, board, node, (each) => ({
          ...each,
          options: without(each.options, option),
        })),
    };
  if (input !== undefined && stop === undefined && VALUE_CODES.has(code))
    return {
      title: code === 'node.unknown-input' ? 'Remove the value' : 'Use the default',
      apply: (document) =>
        changeNode(document, board, node, (each) => ({
          ...each,
          values: without(each.values, input),
        })),
    };
  return null;
}

const VALUE_CODES: ReadonlySet<string> = new Set([
  'node.unknown-input',
  'value.wrong-type',
  'value.out-of-range',
]);

function removeStrand(document: NetworkDocument, { board, strand }: FindingPlace): NetworkDocument {
  const network = getNetwork(document, board);
  // Of two strands with one id, the later one is the fault.
  const k = network.strands.findLastIndex(({ id }) => id === strand);
  return k < 0
    ? document
    : withNetwork(document, board, { ...network, strands: network.strands.toSpliced(k, 1) });
}

function removeBrokenDrive(
  document: NetworkDocument,
  { group, dial, drive }: FindingPlace,
): NetworkDocument {
  return group === undefined
    ? document
    : withGroup(document, group, (each) => ({
        ...each,
        dials: each.dials.map((one) =>
          one.id === dial ? { ...one, drives: one.drives.filter((_, k) => k !== drive) } : one,
        ),
      }));
}
