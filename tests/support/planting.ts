import { changeDial } from '@/core/edit/dials';
import { changeNode, withGroup } from '@/core/edit/board';
import { factor, lift } from '@/core/edit/ready/define';
import type { DialWords } from '@/core/edit/ready/define';
import type { NoteCode } from '@/core/notes/group-note';
import type {
  Dial,
  Drive,
  GroupDefinition,
  NetworkDocument,
  NodeInstance,
  Strand,
} from '@/core/graph/document';
import { node } from './networks';
import { readyCard } from './ready-card';

/** A good group with one fault. */
export interface PlantedGroup {
  readonly code: NoteCode;
  readonly what: string;
  readonly document: NetworkDocument;
  readonly card: string;
  readonly groupId: string;
}
export type Change = (document: NetworkDocument, groupId: string) => NetworkDocument;

export const plant =
  (code: NoteCode, what: string, name: string, change: Change) => (): PlantedGroup => {
    const { document, card, group } = readyCard(name);
    return { code, what, document: change(document, group.id), card, groupId: group.id };
  };

export const group =
  (change: (group: GroupDefinition) => Partial<GroupDefinition>): Change =>
  (document, id) =>
    withGroup(document, id, (each) => ({ ...each, ...change(each) }));
export const dial =
  (id: string, change: Partial<Dial>): Change =>
  (document, groupId) =>
    changeDial(document, groupId, id, change);
export const inner =
  (id: string, change: (node: NodeInstance) => NodeInstance): Change =>
  (document, groupId) =>
    changeNode(document, groupId, id, change);
export const WORDS: DialWords = ['Extra', 'Does something more.', 'less', 'more'];
export const extra = (change: Partial<Dial>, ...drives: readonly Drive[]): Change =>
  group(({ dials }) => ({
    dials: [...dials, { ...factor('extra', WORDS, ...drives), ...change }],
  }));
export const both =
  (...changes: readonly Change[]): Change =>
  (document, id) =>
    changes.reduce((current, change) => change(current, id), document);

let strands = 0;
export const strand = (from: readonly [string, string], to: readonly [string, string]): Strand => ({
  id: `planted${String(++strands)}`,
  from: { node: from[0], output: from[1] },
  to: { node: to[0], input: to[1] },
  order: 0,
});
/** Adds nodes and strands inside; what leaves by an output is led through `through`. */
export const build = (
  nodes: readonly NodeInstance[],
  added: readonly Strand[],
  through?: {
    readonly output: string;
    readonly into: [string, string];
    readonly from: [string, string];
  },
): Change =>
  group(({ network }) => {
    const end = network.strands.find(
      ({ to }) => to.node === '@out' && to.input === through?.output,
    );
    const led =
      through && end
        ? [
            ...network.strands.filter((each) => each !== end),
            strand([end.from.node, end.from.output], through.into),
            strand(through.from, ['@out', through.output]),
          ]
        : network.strands;
    return {
      network: { ...network, nodes: [...network.nodes, ...nodes], strands: [...led, ...added] },
    };
  });
/** Leads what goes out through a calculation with a dial on its second operand. */
export const calculated = (
  output: string,
  operation: string,
  b: number,
  soft: [number, number],
): Change =>
  both(
    build([node('sum', 'math.math', { b }, { operation })], [], {
      output,
      into: ['sum', 'a'],
      from: ['sum', 'value'],
    }),
    extra({ soft }, lift('sum', 'b', 1)),
  );

/** Multiplies what goes out with an output of another node. */
export const multipliedBy = (output: string, by: NodeInstance, from: string): Change =>
  build(
    [by, node('product', 'math.math', {}, { operation: 'multiply' })],
    [strand([by.id, from], ['product', 'b'])],
    { output, into: ['product', 'a'], from: ['product', 'value'] },
  );

export const OFF = (each: NodeInstance): NodeInstance => ({ ...each, off: true });
