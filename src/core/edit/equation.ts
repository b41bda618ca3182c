import { own } from '../base/own';
import { describePorts, findNodeDefinition, getNodeTitle } from '../compile/catalogue';
import { getInputValue } from '../compile/uniforms';
import {
  INPUT_EDGE,
  OUTPUT_EDGE,
  isChoice,
  isCurve,
  isFormula,
  isImage,
  isRamp,
} from '../graph/document';
import type {
  Drive,
  GroupDefinition,
  InputValue,
  NetworkDocument,
  NodeInstance,
} from '../graph/document';
import type { NodeId, PortId } from '../base/ids';
import { getNetwork, neededGroups } from './board';
import type { BoardId } from './board';

const number = (value: number): string => String(Number(value.toPrecision(5)));

/** A value as it stands in an equation. */
export function valueText(value: InputValue | undefined): string {
  if (value === undefined) return '…';
  if (typeof value === 'number') return number(value);
  if (isChoice(value)) return value.choice;
  if (isRamp(value))
    return `ramp[${value.stops.map(({ position }) => number(position)).join(' ')}]`;
  if (isCurve(value))
    return `curve[${value.points.map((point) => `(${point.map(number).join(' ')})`).join(' ')}]`;
  if (isImage(value)) return value.name ? `image “${value.name}”` : 'no image';
  if (isFormula(value)) return value.formula;
  return `(${value.map(number).join(', ')})`;
}

const compound = /[\s+\-−×/^]/;
const grouped = (text: string): string =>
  compound.test(text) && !/^[\w.“”]*\(.*\)$/.test(text) ? `(${text})` : text;

/** What a dial makes of a designed value, with the dial by its name. */
function drivenText(designed: string, { law, reach, low, high }: Drive, dial: string): string {
  const value = grouped(designed);
  switch (law) {
    case 'times':
      return `${value} × ${dial}`;
    case 'lift':
      return `${value} + (${dial} − 1) × ${number(reach ?? 0)}`;
    case 'span':
      return `${value} + (${dial} − home) × ${number((high ?? 0) - (low ?? 0))}`;
    case 'blend':
      return (
        `${low === undefined ? value : number(low)} × (1 − ${dial}) + ` +
        `${number(high ?? 0)} × ${dial}`
      );
    case 'power':
      return `max(${value}, 0) ^ ${dial}`;
    case 'as is':
      return dial;
  }
}

/** Names of nodes as they stand in an equation: short, and each only once. */
function nameNodes(document: NetworkDocument, group: GroupDefinition): ReadonlyMap<NodeId, string> {
  const names = new Map<NodeId, string>();
  const taken = new Set<string>();
  for (const node of group.network.nodes) {
    const title = getNodeTitle(document, node).trim().toLowerCase().replace(/\s+/g, '_');
    let name = title;
    for (let k = 2; taken.has(name); k++) name = `${title}_${String(k)}`;
    taken.add(name);
    names.set(node.id, name);
  }
  return names;
}

/** The nodes that an output of the group depends on, each after those it depends on. */
function inOrder({ network: { nodes, strands } }: GroupDefinition): readonly NodeInstance[] {
  const done = new Set<string>();
  const order: NodeInstance[] = [];
  const visit = (id: string): void => {
    if (done.has(id)) return;
    done.add(id);
    for (const { from, to } of strands) if (to.node === id) visit(from.node);
    const node = nodes.find((each) => each.id === id);
    if (node) order.push(node);
  };
  visit(OUTPUT_EDGE);
  return order;
}

/** Writes the lines of one group's equation. */
class EquationWriter {
  private readonly names: ReadonlyMap<NodeId, string>;

  constructor(
    private readonly document: NetworkDocument,
    private readonly group: GroupDefinition,
  ) {
    this.names = nameNodes(document, group);
  }

  line(node: NodeInstance): string {
    const ports = describePorts(this.document, node);
    const name = this.names.get(node.id) ?? node.id;
    if (node.off) return `${name} = off`;
    const limited = (text: string): string => {
      const kept =
        node.amount === undefined || node.amount === 1
          ? text
          : `${number(node.amount)} of ${grouped(text)}`;
      return node.limited ? `limit(${kept}, 0, 1)` : kept;
    };
    const formula = Object.keys(findNodeDefinition(node)?.inputs ?? {})
      .map((id) => getInputValue(node, id))
      .find((value) => value !== undefined && isFormula(value));
    const operation = findNodeDefinition(node)?.options['operation'];
    const choice = operation?.choices.find(
      ({ value }) => value === (own(node.options, 'operation') ?? operation.default),
    );
    const template =
      formula && isFormula(formula)
        ? formula.formula
        : node.type === 'math.math' || node.type === 'math.vector'
          ? choice?.help.split(';')[0]
          : undefined;
    if (template !== undefined && /\b[a-f]\b/.test(template))
      return `${name} = ${limited(
        template.replace(/\b[a-f]\b/g, (letter) => grouped(this.argument(node, letter))),
      )}`;
    const title =
      node.group === undefined
        ? (findNodeDefinition(node)?.title ?? node.type)
        : getNodeTitle(this.document, { ...node, name: undefined });
    const given = (ports?.inputs ?? [])
      .filter(({ id }) => this.isGiven(node, id))
      .map(({ id, title: port }) => `${port.toLowerCase()}: ${this.argument(node, id)}`);
    const modes = Object.entries(node.options).map(([id, value]) => `${id}: ${value}`);
    return `${name} = ${limited(`${title}(${[...given, ...modes].join(', ')})`)}`;
  }

  output(id: string, title: string): string {
    return `${title} = ${this.arriving(OUTPUT_EDGE, id) ?? 'nothing'}`;
  }

  private isGiven(node: NodeInstance, input: string): boolean {
    return (
      own(node.values, input) !== undefined ||
      this.arriving(node.id, input) !== undefined ||
      this.drives(node.id, input).length > 0
    );
  }

  private drives(node: NodeId, input: string) {
    return this.group.dials.flatMap((dial) =>
      dial.drives
        .filter((drive) => drive.node === node && drive.input === input)
        .map((drive) => ({ dial, drive })),
    );
  }

  private argument(node: NodeInstance, input: string): string {
    const designed = this.arriving(node.id, input) ?? valueText(getInputValue(node, input));
    return this.drives(node.id, input).reduce(
      (text, { dial, drive }) => drivenText(text, drive, `“${dial.name}”`),
      designed,
    );
  }

  private arriving(node: string, input: string): string | undefined {
    const strands = this.group.network.strands.filter(
      ({ to }) => to.node === node && to.input === input,
    );
    if (strands.length === 0) return undefined;
    const texts = [...strands]
      .sort((a, b) => a.order - b.order)
      .map(({ from, conversion }) => {
        const text = this.source(from.node, from.output);
        return conversion ? `${conversion}(${text})` : text;
      });
    return texts.length === 1 ? texts[0] : `[${texts.join(', ')}]`;
  }

  private source(node: string, output: string): string {
    const { inputs, dials, network } = this.group;
    if (node === INPUT_EDGE)
      return `“${[...inputs, ...dials].find(({ id }) => id === output)?.name ?? output}”`;
    const inner = network.nodes.find(({ id }) => id === node);
    const outputs = inner ? (describePorts(this.document, inner)?.outputs ?? []) : [];
    const name = this.names.get(node) ?? node;
    const title = outputs.find(({ id }) => id === output)?.title ?? output;
    return outputs.length > 1 ? `${name}.${title.toLowerCase().replace(/\s+/g, '_')}` : name;
  }
}

/**
 * The equation of a group as text: a line for each node that an output depends on, in the order of
 * computing, then the outputs. Inputs, dials and nodes stand under their names; inputs that are not
 * named keep the node's own value.
 */
export function groupEquation(
  document: NetworkDocument,
  group: GroupDefinition,
): readonly string[] {
  const writer = new EquationWriter(document, group);
  return [
    ...inOrder(group).map((node) => writer.line(node)),
    ...group.outputs.map(({ id, name }) => writer.output(id, name)),
  ];
}

/**
 * The equation of a group with those of the groups inside it, and what each kind of node computes.
 */
export function equationText(document: NetworkDocument, group: GroupDefinition): string {
  const inner = Object.values(neededGroups(document, group.network));
  const types = new Map(
    [group, ...inner].flatMap((each) =>
      inOrder(each).flatMap((node) => {
        const definition = findNodeDefinition(node);
        return definition ? [[definition.title, definition.formula] as const] : [];
      }),
    ),
  );
  const parts = [
    groupEquation(document, group).join('\n'),
    ...inner.map((each) => `${each.name}:\n${groupEquation(document, each).join('\n')}`),
    [...types].map(([title, formula]) => `${title}: ${formula}`).join('\n'),
  ];
  return parts.filter(Boolean).join('\n\n');
}

/** A line of an equation with the node it is of. */
export interface EquationLine {
  readonly node: NodeId;
  readonly text: string;
}

/**
 * How an output of a board comes about: a line for each node that it depends on, in the order of
 * computing, with names and numbers.
 */
export function outputEquation(
  document: NetworkDocument,
  board: BoardId,
  output: { readonly node: NodeId; readonly output: PortId },
): readonly EquationLine[] {
  const group = board === null ? undefined : own(document.groups, board);
  const network = getNetwork(document, board);
  const end = { id: `to ${OUTPUT_EDGE}`, from: output, to: { node: OUTPUT_EDGE, input: 'out' } };
  const wanted: GroupDefinition = {
    ...(group ?? BOARD),
    outputs: [],
    network: {
      ...network,
      strands: [
        ...network.strands.filter(({ to }) => to.node !== OUTPUT_EDGE),
        { ...end, order: 0 },
      ],
    },
  };
  const writer = new EquationWriter(document, wanted);
  return inOrder(wanted).map((node) => ({ node: node.id, text: writer.line(node) }));
}
/** What a material's own board counts as, where it is written as a group. */
const BOARD: Omit<GroupDefinition, 'network'> = {
  id: '',
  name: '',
  description: '',
  inputs: [],
  outputs: [],
  dials: [],
};
