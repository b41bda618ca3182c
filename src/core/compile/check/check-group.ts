import { own } from '../../base/own';
import { LIMITS, isChoice, isFlowing } from '../../graph/document';
import type {
  Dial,
  Drive,
  GroupDefinition,
  NetworkDocument,
  NodeInstance,
} from '../../graph/document';
import { NOT_DRIVEN } from '../../nodes/define';
import { describePorts, findNodeDefinition } from '../catalogue';
import { fits, kindWord } from './kinds';
import type { CheckReport, DocumentPath } from './report';

/** Checks what a group shows outside: its inputs and dials, and what the dials drive. */
export function checkGroup(
  report: CheckReport,
  document: NetworkDocument,
  group: GroupDefinition,
  at: DocumentPath,
): void {
  const ids = new Set<string>();
  const once = (id: string, path: DocumentPath): void => {
    if (ids.has(id))
      report.add(
        'node.duplicate-id',
        path,
        `Two inputs or dials of “${group.name}” share the id ${id}.`,
      );
    ids.add(id);
  };
  group.inputs.forEach(({ id }, k) => {
    once(id, [...at, 'inputs', k]);
  });
  group.dials.forEach((dial, k) => {
    once(dial.id, [...at, 'dials', k]);
    checkDial(report, document, group, dial, [...at, 'dials', k]);
  });
}

function checkDial(
  report: CheckReport,
  document: NetworkDocument,
  group: GroupDefinition,
  dial: Dial,
  at: DocumentPath,
): void {
  if (!fits(dial.kind, dial.home))
    report.add(
      'value.wrong-type',
      [...at, 'home'],
      `The home of the dial “${dial.name}” is not a ${kindWord(dial.kind)}.`,
    );
  dial.drives.forEach((drive, k) => {
    checkDrive(report, document, group, dial, drive, [...at, 'drives', k]);
  });
}

function checkDrive(
  report: CheckReport,
  document: NetworkDocument,
  group: GroupDefinition,
  dial: Dial,
  drive: Drive,
  at: DocumentPath,
): void {
  const node = group.network.nodes.find((each) => each.id === drive.node);
  const port =
    node && describePorts(document, node)?.inputs.find((each) => each.id === drive.input);
  if (node && dial.kind === 'choice' && node.type !== 'group')
    return checkChoices(report, dial, drive, node, at);
  if (!node || !port)
    return report.add(
      'drive.missing-target',
      at,
      `The dial “${dial.name}” drives ${drive.input} of ${drive.node}, which does not exist. ` +
        'Remove the drive.',
    );
  const place = { node: node.id };
  const isSetting = !isFlowing(dial);
  if (isSetting ? port.kind !== dial.kind : NOT_DRIVEN.has(port.kind))
    report.add('drive.kind', at, `The dial “${dial.name}” cannot drive ${port.title}.`, place);
  if (drive.law !== 'as is' && dial.kind !== 'scalar')
    report.add('drive.law', at, `Only a scalar dial can have the law “${drive.law}”.`, place);
  if (drive.law === 'span' && drive.low === drive.high)
    report.add('drive.law', at, `The span of the dial “${dial.name}” has equal ends.`, place);
}

/** A dial that is a choice drives an option, and offers only what the option has. */
function checkChoices(
  report: CheckReport,
  dial: Dial,
  drive: Drive,
  node: NodeInstance,
  at: DocumentPath,
): void {
  const option = own(findNodeDefinition(node)?.options, drive.input);
  if (!option)
    return report.add(
      'drive.missing-target',
      at,
      `The dial “${dial.name}” drives the option ${drive.input} of ${drive.node}, which does ` +
        'not exist. Remove the drive.',
    );
  if (option.open !== undefined) return;
  const offered = [
    ...(dial.choices ?? []).map(({ value }) => value),
    ...(isChoice(dial.home) ? [dial.home.choice] : []),
  ];
  const unknown = offered.find((value) => !option.choices.some((each) => each.value === value));
  if (unknown !== undefined)
    report.add(
      'drive.kind',
      at,
      `The dial “${dial.name}” offers “${unknown}”, which ${option.title.toLowerCase()} has not.`,
      { node: node.id },
    );
}

/** Groups may not contain themselves, nor nest too deep, nor unfold to too many nodes. */
export function checkNesting(report: CheckReport, document: NetworkDocument): void {
  const sizes = new Map<string, number>();
  const open: string[] = [];
  const sizeOf = (id: string): number => {
    const known = sizes.get(id);
    if (known !== undefined) return known;
    const group = Object.hasOwn(document.groups, id) ? own(document.groups, id) : undefined;
    if (!group) return 0;
    if (open.includes(id)) {
      reportCircle(report, document, group, open);
      sizes.set(id, 0);
      return 0;
    }
    if (open.length >= LIMITS.groupDepth) {
      report.add(
        'group.too-deep',
        ['groups', id],
        `Groups nest deeper than ${String(LIMITS.groupDepth)} levels at “${group.name}”.`,
      );
      return 0;
    }
    open.push(id);
    const size = sizeWithin(group.network.nodes, sizeOf);
    open.pop();
    if (!sizes.has(id)) sizes.set(id, size);
    return size;
  };
  for (const id of Object.keys(document.groups)) sizeOf(id);
  const total = sizeWithin(document.network.nodes, sizeOf);
  if (total > LIMITS.nodes)
    report.add(
      'network.too-large',
      ['network'],
      `With its groups opened the network has ${String(total)} nodes; the limit is ` +
        `${String(LIMITS.nodes)}.`,
    );
}

const sizeWithin = (
  nodes: GroupDefinition['network']['nodes'],
  sizeOf: (id: string) => number,
): number =>
  nodes.reduce((sum, node) => sum + 1 + (node.group === undefined ? 0 : sizeOf(node.group)), 0);

function reportCircle(
  report: CheckReport,
  document: NetworkDocument,
  group: GroupDefinition,
  open: readonly string[],
): void {
  const names = open.map((each) => own(document.groups, each)?.name ?? each);
  const way = open.length > 1 ? `, by way of ${names.join(' → ')}` : '';
  report.add(
    'group.contains-itself',
    ['groups', group.id],
    `The group “${group.name}” contains itself${way}. Take it out of its own network.`,
  );
}
