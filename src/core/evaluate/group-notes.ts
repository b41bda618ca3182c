import { own } from '../base/own';
import { findGroupDefinition, findNodeDefinition, getNodeTitle } from '../compile/catalogue';
import { silentMeaning } from '../compile/check/check-unwired';
import { getInputValue } from '../compile/uniforms';
import { OUTPUT_EDGE, isImage } from '../graph/document';
import type { Dial, GroupDefinition, NetworkDocument, NodeInstance } from '../graph/document';
import type { NodeId } from '../base/ids';

/** What the inspector may find in a group. */
export type NoteCode =
  | 'no-name'
  | 'no-description'
  | 'no-dials'
  | 'dial-help'
  | 'dial-ends'
  | 'dial-name'
  | 'dial-zero'
  | 'dial-dead'
  | 'dial-flat'
  | 'dial-beyond'
  | 'leftover'
  | 'off'
  | 'unwired'
  | 'image'
  | 'units'
  | 'camera'
  | 'lights'
  | 'influence';

/** One change that a note offers. */
export type NoteCure =
  | { readonly act: 'remove-node'; readonly title: string; readonly node: NodeId }
  | { readonly act: 'switch-on'; readonly title: string; readonly node: NodeId }
  | {
      readonly act: 'slider';
      readonly title: string;
      readonly dial: string;
      readonly soft: readonly [number, number];
    }
  | { readonly act: 'declare'; readonly title: string; readonly port: string };

/** A note: what was found, where, why it matters, and what mends it. */
export interface GroupNote {
  readonly code: NoteCode;
  /** `fault`: whoever uses the group is misled; `fact`: worth knowing. */
  readonly tone: 'fault' | 'fact';
  readonly message: string;
  readonly node?: NodeId;
  readonly dial?: string;
  readonly port?: string;
  readonly input?: string;
  readonly cure?: NoteCure;
}

/** The name every new group has. */
const UNNAMED = 'New group';

function wordNotes({ name, description, dials }: GroupDefinition): GroupNote[] {
  const notes: GroupNote[] = [];
  if (name.trim() === '' || name === UNNAMED)
    notes.push({
      code: 'no-name',
      tone: 'fault',
      message: 'The group has no name of its own: nobody will find it.',
    });
  if (description.trim() === '')
    notes.push({
      code: 'no-description',
      tone: 'fault',
      message: 'Nothing says what the group does. Write a sentence under its name.',
    });
  if (dials.length === 0)
    notes.push({
      code: 'no-dials',
      tone: 'fact',
      message: 'It has no dials: nothing can be set from outside.',
    });
  return notes;
}

function dialNotes(document: NetworkDocument, group: GroupDefinition, dial: Dial): GroupNote[] {
  const notes: GroupNote[] = [];
  const say = (code: NoteCode, tone: GroupNote['tone'], message: string): void => {
    notes.push({ code, tone, message, dial: dial.id });
  };
  const isTwice = group.dials.filter(({ name }) => name === dial.name).length > 1;
  if (dial.name.trim() === '') say('dial-name', 'fault', 'A dial has no name.');
  else if (isTwice)
    say('dial-name', 'fault', `Two dials are called “${dial.name}”: nobody can tell them apart.`);
  if (dial.help.trim() === '')
    say('dial-help', 'fault', `“${dial.name}” does not say what it does.`);
  if (dial.kind === 'scalar' && !(dial.ends?.low && dial.ends.high))
    say('dial-ends', 'fact', `“${dial.name}” does not say what its low and high ends do.`);
  const dead = dial.drives.find(({ node, input, law }) => {
    const inner = group.network.nodes.find(({ id }) => id === node);
    const isWired = group.network.strands.some(({ to }) => to.node === node && to.input === input);
    return law === 'times' && !isWired && inner && getInputValue(inner, input) === 0;
  });
  const inner = dead && group.network.nodes.find(({ id }) => id === dead.node);
  if (dead && inner)
    say(
      'dial-zero',
      'fault',
      `“${dial.name}” multiplies a value of “${getNodeTitle(document, inner)}” that is 0: it ` +
        'does nothing there. Take the law “lift”.',
    );
  return notes;
}

/** The nodes that something going out depends on. */
function feedingOut({ network: { strands } }: GroupDefinition): ReadonlySet<string> {
  const needed = new Set<string>();
  const waiting: string[] = [OUTPUT_EDGE];
  for (let id = waiting.pop(); id !== undefined; id = waiting.pop())
    for (const { from, to } of strands)
      if (to.node === id && !needed.has(from.node)) {
        needed.add(from.node);
        waiting.push(from.node);
      }
  return needed;
}

function nodeNotes(
  document: NetworkDocument,
  group: GroupDefinition,
  node: NodeInstance,
  isNeeded: boolean,
): GroupNote[] {
  const title = getNodeTitle(document, node);
  if (!isNeeded)
    return [
      {
        code: 'leftover',
        tone: 'fault',
        message: `“${title}” leads nowhere: nothing that goes out depends on it.`,
        node: node.id,
        cure: { act: 'remove-node', title: 'Remove it', node: node.id },
      },
    ];
  const notes: GroupNote[] = [];
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
function followNotes(document: NetworkDocument, group: GroupDefinition): GroupNote[] {
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

/** Inputs that count as coordinates without having said so. */
function portNotes(group: GroupDefinition): GroupNote[] {
  return group.inputs.flatMap((port) => {
    if (port.kind !== 'vector' || port.fallback !== undefined || port.unwired) return [];
    const meaning = silentMeaning(group, port.id);
    if (meaning === null) return [];
    return [
      {
        code: 'unwired' as const,
        tone: 'fault' as const,
        message: `Unwired, “${port.name}” counts as the ${meaning}, which nobody has said.`,
        port: port.id,
        cure: { act: 'declare' as const, title: 'Say it is the position', port: port.id },
      },
    ];
  });
}

/** What the inspector sees in a group without computing anything, faults first. */
export function listNotes(document: NetworkDocument, groupId: string): readonly GroupNote[] {
  const group = own(document.groups, groupId);
  if (!group) return [];
  const needed = feedingOut(group);
  const notes = [
    ...wordNotes(group),
    ...group.dials.flatMap((dial) => dialNotes(document, group, dial)),
    ...portNotes(group),
    ...group.network.nodes.flatMap((node) => nodeNotes(document, group, node, needed.has(node.id))),
    ...followNotes(document, group),
  ];
  return [
    ...notes.filter(({ tone }) => tone === 'fault'),
    ...notes.filter(({ tone }) => tone === 'fact'),
  ];
}
