import { own } from '../base/own';
import { openOutputText, openOutputs, unreadInputText, unreadInputs } from '../advice/open-ends';
import { inputPort } from '../compile/catalogue';
import { silentMeaning } from '../compile/check/check-unwired';
import { getInputValue } from '../compile/uniforms';
import type { Dial, GroupDefinition, NetworkDocument } from '../graph/document';
import { PLAIN_NAMES, nameFault } from '../edit/naming-rule';
import type { NamingRule } from '../edit/naming-rule';
import { fullValues } from '../edit/variants';
import type { Proof } from '../evaluate/proof';
import type { GroupNote, NoteCode } from './group-note';
import { followNotes, nodeNotes } from './node-notes';
import { titleInList } from '../compile/told-apart';

/** The name every new group has. */
const UNNAMED = 'New group';

/** Whether a name keeps the studio's rule. */
function namingNotes(name: string, rule: NamingRule, place: Partial<GroupNote> = {}): GroupNote[] {
  const fault = nameFault(name, rule);
  return fault
    ? [{ code: 'naming', tone: 'fault', message: `The name “${name}” ${fault}.`, ...place }]
    : [];
}

function wordNotes({ name, description, dials }: GroupDefinition, rule: NamingRule): GroupNote[] {
  const notes: GroupNote[] = [];
  if (name.trim() === '' || name === UNNAMED)
    notes.push({
      code: 'no-name',
      tone: 'fault',
      message: 'The group has no name of its own: nobody will find it.',
    });
  else notes.push(...namingNotes(name, rule));
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

function dialNotes(
  document: NetworkDocument,
  group: GroupDefinition,
  dial: Dial,
  rule: NamingRule,
): GroupNote[] {
  const notes: GroupNote[] = [];
  const say = (code: NoteCode, tone: GroupNote['tone'], message: string): void => {
    notes.push({ code, tone, message, dial: dial.id });
  };
  const isTwice = group.dials.filter(({ name }) => name === dial.name).length > 1;
  if (dial.name.trim() === '') say('dial-name', 'fault', 'A dial has no name.');
  else if (isTwice)
    say('dial-name', 'fault', `Two dials are called “${dial.name}”: nobody can tell them apart.`);
  else notes.push(...namingNotes(dial.name, rule, { dial: dial.id }));
  if (dial.help.trim() === '')
    say('dial-help', 'fault', `“${dial.name}” does not say what it does.`);
  if (dial.kind === 'scalar' && !(dial.ends?.low && dial.ends.high))
    say('dial-ends', 'fact', `“${dial.name}” does not say what its low and high ends do.`);
  notes.push(...homeNotes(dial), ...dataNotes(document, group, dial));
  const dead = dial.drives.find(({ node, input, law }) => {
    const inner = group.network.nodes.find(({ id }) => id === node);
    const isWired = group.network.strands.some(({ to }) => to.node === node && to.input === input);
    return law === 'times' && !isWired && inner && getInputValue(inner, input) === 0;
  });
  const inner = dead && group.network.nodes.find(({ id }) => id === dead.node);
  if (dead && inner)
    notes.push({
      code: 'dial-zero',
      tone: 'fault',
      message:
        `“${dial.name}” multiplies a value of “${titleInList(document, group.network, inner)}” ` +
        'that is 0: it does nothing there. Take the law “lift”.',
      dial: dial.id,
      cure: {
        act: 'law',
        title: 'Take the law “lift”',
        dial: dial.id,
        node: dead.node,
        input: dead.input,
        law: 'lift',
      },
    });
  return notes;
}

/** A home that its own slider does not reach. */
function homeNotes({ id, name, kind, home, soft: [low, high] }: Dial): GroupNote[] {
  if (kind !== 'scalar' || typeof home !== 'number' || (home >= low && home <= high)) return [];
  const nearest = home < low ? low : high;
  return [
    {
      code: 'dial-home',
      tone: 'fault',
      message:
        `“${name}” has its home ${String(home)} outside its slider, ${String(low)} to ` +
        `${String(high)}: whoever moves it never finds back.`,
      dial: id,
      cure: {
        act: 'slider',
        title: 'Let its slider reach home',
        dial: id,
        soft: nearest === low ? [home, high] : [low, home],
      },
    },
  ];
}

/** A colour to choose where what is read of it are directions. */
function dataNotes(
  document: NetworkDocument,
  { network }: GroupDefinition,
  { id, name, kind, drives }: Dial,
): GroupNote[] {
  if (kind !== 'colour') return [];
  return drives.flatMap(({ node: target, input }): GroupNote[] => {
    const node = network.nodes.find((each) => each.id === target);
    const port = node && inputPort(node, input);
    if (!node || !port || (port.kind !== 'vector' && port.quantity !== 'normal')) return [];
    return [
      {
        code: 'dial-data',
        tone: 'fault',
        message:
          `“${name}” is a colour, but ${port.title} of “${titleInList(document, network, node)}” ` +
          'reads it as a direction: no colour that looks right is right there.',
        node: target,
        dial: id,
      },
    ];
  });
}

/** Names of ports that break the rule, and inputs that silently count as coordinates. */
function portNotes(group: GroupDefinition, rule: NamingRule): GroupNote[] {
  const named = [...group.inputs, ...group.outputs].flatMap(({ id, name }) =>
    namingNotes(name, rule, { port: id }),
  );
  const silent = group.inputs.flatMap((port): GroupNote[] => {
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
  return [...named, ...silent, ...openPorts(group)];
}

/** Outputs that give nothing, and inputs that nothing reads. */
function openPorts(group: GroupDefinition): GroupNote[] {
  const removed = (side: 'inputs' | 'outputs', port: string) =>
    ({ act: 'remove-port', title: 'Remove it', side, port }) as const;
  return [
    ...openOutputs(group).map(({ id, name }) => ({
      code: 'open-output' as const,
      tone: 'fault' as const,
      message: openOutputText(name),
      port: id,
      cure: removed('outputs', id),
    })),
    ...unreadInputs(group).map(({ id, name }) => ({
      code: 'unread-input' as const,
      tone: 'fault' as const,
      message: unreadInputText(name),
      port: id,
      cure: removed('inputs', id),
    })),
  ];
}

/** Variants that are the same as home or as another: nobody can tell them apart. */
function variantNotes(group: GroupDefinition): GroupNote[] {
  const seen = new Map<string, string>([[JSON.stringify(fullValues(group, {})), 'home']]);
  return (group.variants ?? []).flatMap(({ name, values }): GroupNote[] => {
    const key = JSON.stringify(fullValues(group, values));
    const same = seen.get(key);
    if (same === undefined) seen.set(key, `“${name}”`);
    return same === undefined
      ? []
      : [
          {
            code: 'variant',
            tone: 'fact',
            message: `The variant “${name}” is the same as ${same}.`,
          },
        ];
  });
}

/**
 * What the inspector sees in a group without computing anything, faults first.
 * @param rule that names are to keep
 */
export function listNotes(
  document: NetworkDocument,
  groupId: string,
  rule: NamingRule = PLAIN_NAMES,
): readonly GroupNote[] {
  const group = own(document.groups, groupId);
  if (!group) return [];
  const notes = [
    ...wordNotes(group, rule),
    ...group.dials.flatMap((dial) => dialNotes(document, group, dial, rule)),
    ...portNotes(group, rule),
    ...variantNotes(group),
    ...group.network.nodes.flatMap((node) => nodeNotes(document, group, node)),
    ...followNotes(document, group),
  ];
  return [
    ...notes.filter(({ tone }) => tone === 'fault'),
    ...notes.filter(({ tone }) => tone === 'fact'),
  ];
}

/** What the proof of a group found, as a note: where and why it is not what it came from. */
export function proofNotes(group: GroupDefinition, proof: Proof | null): readonly GroupNote[] {
  if (!group.origin && (!proof || proof.identical))
    return [
      {
        code: 'proof',
        tone: 'fact',
        message:
          'It was built from inside: its proof is against that inside with the dials away, not ' +
          'against a network that was there before.',
      },
    ];
  if (!proof || proof.identical) return [];
  const [first] = proof.changes;
  const node = group.network.nodes.find(
    ({ id, name }) => id === first?.node || name === first?.node,
  );
  const why = first
    ? ` Mostly by ${first.node} ${first.what}: ${first.before} → ${first.after}.`
    : '';
  return [
    {
      code: 'proof',
      tone: 'fault',
      message: group.origin
        ? `At home it does not look like the network it was packaged from.${why}`
        : 'At home it does not look like its own inside with the dials away.',
      ...(node ? { node: node.id } : {}),
    },
  ];
}
