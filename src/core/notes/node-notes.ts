import { idleAdvice } from '../advice/idle';
import { own } from '../base/own';
import { findGroupDefinition, findNodeDefinition, getNodeTitle } from '../compile/catalogue';
import { isImage } from '../graph/document';
import type { GroupDefinition, NetworkDocument, NodeInstance } from '../graph/document';
import type { AdviceCode } from '../nodes/advice';
import type { GroupNote, NoteCode } from './group-note';
import { titleInList } from '../compile/told-apart';

/** What advice on a card is as a note on its group; the rest only shows on the card. */
const AS_NOTE: Partial<Readonly<Record<AdviceCode, NoteCode>>> = {
  'node.unused': 'leftover',
  'factor.idle': 'idle-input',
  'normal.fixed': 'fixed-normal',
};

/** What the cards inside say that misleads who uses the group from outside. */
const advisedNotes = (
  document: NetworkDocument,
  { network }: GroupDefinition,
  node: NodeInstance,
  title: string,
): GroupNote[] =>
  idleAdvice({ document, network, node }).flatMap(({ code, message, cure }): GroupNote[] => {
    const known = AS_NOTE[code];
    return known === undefined
      ? []
      : [
          {
            code: known,
            tone: 'fault',
            message: `“${title}”: ${message}`,
            node: node.id,
            ...(cure
              ? { cure: { act: 'advice', title: cure.title, node: node.id, advice: cure } }
              : {}),
          },
        ];
  });

/** Names that people give to what they only try. */
const TRIED = /\b(test|tests|trial|tmp|temp|todo|old)\b/i;

/** What was left from trying things out, though something depends on it. */
function strayNotes(
  { network, dials }: GroupDefinition,
  { id, name, type }: NodeInstance,
  title: string,
): GroupNote[] {
  if (name !== undefined && TRIED.test(name))
    return [
      {
        code: 'test',
        tone: 'fault',
        message: `“${name}” is called like something that was only tried.`,
        node: id,
      },
    ];
  const leaving = network.strands.filter(({ from }) => from.node === id);
  const isDialled = dials.some(({ drives }) => drives.some(({ node }) => node === id));
  return type === 'constants.number' && leaving.length === 1 && !isDialled
    ? [
        {
          code: 'constant',
          tone: 'fact',
          message: `“${title}” brings one value a fixed number: it could stand there itself.`,
          node: id,
        },
      ]
    : [];
}

/** What is found of one node of a group. */
export function nodeNotes(
  document: NetworkDocument,
  group: GroupDefinition,
  node: NodeInstance,
): GroupNote[] {
  const title = titleInList(document, group.network, node);
  const advised = advisedNotes(document, group, node, title);
  // Of what leads nowhere nothing else is worth a word.
  const leftover = advised.filter(({ code }) => code === 'leftover');
  if (leftover.length > 0) return leftover;
  const notes: GroupNote[] = [...strayNotes(group, node, title), ...advised];
  if (node.off)
    notes.push({
      code: 'off',
      tone: 'fault',
      message: `“${title}” is off; whoever uses the group does not see that.`,
      node: node.id,
      cure: { act: 'switch-on', title: 'Switch it on', node: node.id },
    });
  const isDialled = (input: string): boolean =>
    group.dials.some(({ drives }) =>
      drives.some((drive) => drive.node === node.id && drive.input === input),
    );
  for (const [input, port] of Object.entries(findNodeDefinition(node)?.inputs ?? {})) {
    if (port.kind !== 'image' || isDialled(input)) continue;
    const value = own(node.values, input);
    if (!isImage(value) || value.image === '')
      notes.push({
        code: 'image',
        tone: 'fault',
        message: `“${title}” has no image: it is grey.`,
        node: node.id,
        input,
      });
  }
  const isAlone = !group.network.strands.some(({ to }) => to.node === node.id && to.input === 'at');
  if (node.options['per'] === 'unit' && isAlone)
    notes.push({
      code: 'units',
      tone: 'fact',
      message: `“${title}” counts per metre: on a larger model its pattern is finer.`,
      node: node.id,
    });
  return notes;
}

/** What a group follows beside the surface, itself or by groups inside. */
export function followNotes(document: NetworkDocument, group: GroupDefinition): GroupNote[] {
  const seen = new Set<string>();
  const found = new Map<'camera' | 'lights', NodeInstance>();
  const visit = ({ id, network }: GroupDefinition, outer: NodeInstance | null): void => {
    if (seen.has(id)) return;
    seen.add(id);
    for (const node of network.nodes) {
      const follows = findNodeDefinition(node)?.follows;
      if (follows && !found.has(follows)) found.set(follows, outer ?? node);
      const inner = findGroupDefinition(document, node);
      if (inner) visit(inner, outer ?? node);
    }
  };
  visit(group, null);
  return [...found].map(([follows, node]) => ({
    code: follows,
    tone: 'fact',
    message: `It follows the ${follows} (“${getNodeTitle(document, node)}”): a bake freezes that.`,
    node: node.id,
  }));
}
