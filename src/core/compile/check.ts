import type { Diagnostic, DiagnosticCode, Severity } from '../base/diagnostic';
import {
  INPUT_EDGE,
  LIMITS,
  OUTPUT_EDGE,
  SURFACE_OUTPUT,
  isCurve,
  isFormula,
  isImage,
  isRamp,
  isTriple,
} from '../graph/document';
import type {
  Dial,
  GroupDefinition,
  InputValue,
  Network,
  NetworkDocument,
  NodeInstance,
} from '../graph/document';
import { pointer } from '../graph/pointer';
import { parseDocument } from '../graph/schema';
import { parseFormula } from '../nodes/formula/parse';
import { FormulaError } from '../nodes/formula/tokens';
import { NOT_DRIVEN } from '../nodes/define';
import type { PortKind } from '../nodes/define';
import type { InputView } from './catalogue';
import { describePorts, findDefinition, groupOf, mayConnect, takesMany } from './catalogue';
import { topologicalOrder } from './order';
import { quantityNote } from './quantities';

type Path = readonly (string | number)[];

/** Checks anything as a document: first its shape, then all it refers to. Never throws. */
export function checkDocument(raw: unknown): {
  document: NetworkDocument | null;
  diagnostics: readonly Diagnostic[];
} {
  const parsed = parseDocument(raw);
  if (!parsed.document) return parsed;
  return { document: parsed.document, diagnostics: checkReferences(parsed.document) };
}

/**
 * Findings on a well-shaped document: unknown nodes, broken strands, loops, groups within
 * themselves, wrong values.
 */
export function checkReferences(document: NetworkDocument): readonly Diagnostic[] {
  const checker = new Checker(document);
  checker.checkNetwork(document.network, ['network'], null);
  for (const [id, group] of Object.entries(document.groups))
    checker.checkGroup(group, ['groups', id]);
  checker.checkNesting();
  return checker.findings;
}

class Checker {
  readonly findings: Diagnostic[] = [];

  constructor(private readonly document: NetworkDocument) {}

  private add(
    code: DiagnosticCode,
    path: Path,
    message: string,
    nodeId?: string,
    severity: Severity = 'error',
  ): void {
    if (this.findings.length < 200)
      this.findings.push({
        code,
        severity,
        pointer: pointer(path),
        message,
        ...(nodeId === undefined ? {} : { nodeId }),
      });
  }

  checkGroup(group: GroupDefinition, path: Path): void {
    this.checkNetwork(group.network, [...path, 'network'], group);
    const ids = new Set<string>();
    [...group.inputs, ...group.dials].forEach((port) => {
      if (ids.has(port.id))
        this.add(
          'node.duplicate-id',
          path,
          `Two inputs or dials of “${group.name}” share the id ${port.id}.`,
        );
      ids.add(port.id);
    });
    group.dials.forEach((dial, k) => {
      this.checkDial(group, dial, [...path, 'dials', k]);
    });
  }

  private checkDial(group: GroupDefinition, dial: Dial, path: Path): void {
    if ((dial.kind === 'scalar') === isTriple(dial.home))
      this.add(
        'value.wrong-type',
        [...path, 'home'],
        `The home of dial “${dial.name}” is not a ${dial.kind}.`,
      );
    dial.drives.forEach((drive, k) => {
      const at = [...path, 'drives', k];
      const node = group.network.nodes.find((candidate) => candidate.id === drive.node);
      const port =
        node &&
        describePorts(this.document, node)?.inputs.find(
          (candidate) => candidate.id === drive.input,
        );
      if (!port)
        return this.add(
          'drive.missing-target',
          at,
          `Dial “${dial.name}” drives ${drive.node}.${drive.input}, which is not there. ` +
            'Remove the drive.',
        );
      if (NOT_DRIVEN.has(port.kind))
        this.add('drive.kind', at, `Dial “${dial.name}” cannot drive ${port.title}.`, drive.node);
      if (drive.law !== 'as is' && dial.kind !== 'scalar')
        this.add('drive.law', at, `Only a scalar dial can use the law “${drive.law}”.`, drive.node);
      if (drive.law === 'span' && drive.low === drive.high)
        this.add('drive.law', at, `The span of dial “${dial.name}” has equal ends.`, drive.node);
    });
  }

  checkNetwork(network: Network, path: Path, group: GroupDefinition | null): void {
    const nodes = new Map<string, NodeInstance>();
    network.nodes.forEach((node, k) => {
      if (nodes.has(node.id))
        this.add(
          'node.duplicate-id',
          [...path, 'nodes', k, 'id'],
          `Two nodes share the id ${node.id}.`,
          node.id,
        );
      nodes.set(node.id, node);
      this.checkNode(node, [...path, 'nodes', k]);
    });
    this.checkStrands(network, nodes, path, group);
    const { cycle } = topologicalOrder(network);
    if (cycle.length > 0) {
      this.add(
        'network.cycle',
        [...path, 'strands'],
        `The nodes ${cycle.join(' → ')} feed each other in a circle. Remove one of the ` +
          'strands between them.',
        cycle[0],
      );
    }
  }

  private checkNode(node: NodeInstance, path: Path): void {
    if (node.type === 'group') {
      if (!groupOf(this.document, node))
        return this.add(
          'group.missing',
          [...path, 'group'],
          `The group “${node.group ?? ''}” is not in this document. Bring it in from the ` +
            'library again, or remove the node.',
          node.id,
        );
    } else if (!this.checkType(node, path)) return;
    const ports = new Map(
      describePorts(this.document, node)?.inputs.map((port) => [port.id, port]),
    );
    for (const [id, value] of Object.entries(node.values)) {
      const port = ports.get(id);
      const at = [...path, 'values', id];
      if (!port)
        this.add(
          'node.unknown-input',
          at,
          `“${node.type}” has no input ${id}; the value is kept but not used.`,
          node.id,
          'warning',
        );
      else if (!fits(port.kind, value))
        this.add('value.wrong-type', at, `${port.title} takes a ${kindWord(port.kind)}.`, node.id);
      else if (isFormula(value)) this.checkFormula(value.formula, at, node);
      else this.checkRange(port, value, at, node);
    }
  }

  /**
   * Numbers, and each of the three of a vector or colour, within what may be typed into a port or a
   * dial.
   */
  private checkRange(
    { title, port, dial }: InputView,
    value: InputValue,
    at: Path,
    node: NodeInstance,
  ): void {
    const hard = dial?.kind === 'scalar' ? dial.hard : port?.hard;
    const numbers = typeof value === 'number' ? [value] : isTriple(value) ? value : [];
    const beyond = hard && numbers.find((each) => each < hard[0] || each > hard[1]);
    if (!hard || beyond === undefined) return;
    const range = `between ${String(hard[0])} and ${String(hard[1])}`;
    this.add(
      'value.out-of-range',
      at,
      `${title} is ${String(beyond)}; it may lie ${range} and is limited to that.`,
      node.id,
      'warning',
    );
  }

  private checkFormula(text: string, at: Path, node: NodeInstance): void {
    try {
      parseFormula(text);
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error;
      this.findings.push(formulaFinding(error, at, node));
    }
  }

  private checkType(node: NodeInstance, path: Path): boolean {
    const definition = findDefinition(node.type);
    if (!definition) {
      this.add(
        'node.unknown-type',
        [...path, 'type'],
        `There is no node “${node.type}” in this release. Its place, values and strands ` +
          'are kept; replace it or remove it.',
        node.id,
      );
      return false;
    }
    if (node.version > definition.version) {
      this.add(
        'node.unknown-version',
        [...path, 'version'],
        `“${definition.title}” is saved as version ${String(node.version)}; this release ` +
          `knows up to ${String(definition.version)}.`,
        node.id,
      );
    }
    for (const [id, value] of Object.entries(node.options)) {
      const entry = definition.options[id];
      if (!entry?.open && !entry?.choices.some((choice) => choice.value === value)) {
        this.add(
          'option.unknown',
          [...path, 'options', id],
          `“${definition.title}” has no choice “${value}” for ${id}.`,
          node.id,
        );
      }
    }
    return true;
  }

  private outputKind(
    nodes: ReadonlyMap<string, NodeInstance>,
    group: GroupDefinition | null,
    node: string,
    output: string,
  ): PortKind | undefined {
    if (node === INPUT_EDGE)
      return group
        ? (
            group.inputs.find((port) => port.id === output) ??
            group.dials.find((dial) => dial.id === output)
          )?.kind
        : undefined;
    const instance = nodes.get(node);
    return (
      instance &&
      describePorts(this.document, instance)?.outputs.find((port) => port.id === output)?.kind
    );
  }

  private inputKind(
    nodes: ReadonlyMap<string, NodeInstance>,
    group: GroupDefinition | null,
    node: string,
    input: string,
  ): PortKind | undefined {
    if (node === OUTPUT_EDGE) {
      if (!group) return input === SURFACE_OUTPUT ? 'surface' : undefined;
      return group.outputs.find((port) => port.id === input)?.kind;
    }
    const instance = nodes.get(node);
    return (
      instance &&
      describePorts(this.document, instance)?.inputs.find((port) => port.id === input)?.kind
    );
  }

  private checkStrands(
    network: Network,
    nodes: ReadonlyMap<string, NodeInstance>,
    path: Path,
    group: GroupDefinition | null,
  ): void {
    const taken = new Set<string>();
    const ids = new Set<string>();
    network.strands.forEach((strand, k) => {
      const at = [...path, 'strands', k];
      const { from, to } = strand;
      if (ids.has(strand.id))
        this.add('strand.duplicate-id', [...at, 'id'], `Two strands share the id ${strand.id}.`);
      ids.add(strand.id);
      const known = (node: string, edge: string): boolean => nodes.has(node) || node === edge;
      if (!known(from.node, INPUT_EDGE))
        return this.add(
          'strand.missing-node',
          [...at, 'from'],
          `A strand starts at the node ${from.node}, which is not there.`,
        );
      if (!known(to.node, OUTPUT_EDGE))
        return this.add(
          'strand.missing-node',
          [...at, 'to'],
          `A strand ends at the node ${to.node}, which is not there.`,
        );
      const source = this.outputKind(nodes, group, from.node, from.output);
      const target = this.inputKind(nodes, group, to.node, to.input);
      if (!source)
        return this.add(
          'strand.missing-port',
          [...at, 'from'],
          `${from.node} has no output ${from.output}.`,
          from.node,
        );
      if (!target)
        return this.add(
          'strand.missing-port',
          [...at, 'to'],
          `${to.node} has no input ${to.input}.`,
          to.node,
        );
      if (!mayConnect(source, target))
        this.add(
          'strand.kind',
          at,
          `A ${kindWord(source)} cannot go into a ${kindWord(target)}.`,
          to.node,
        );
      const note = quantityNote(this.document, network, group, strand);
      if (note?.formula === null)
        this.add(
          'strand.quantity',
          at,
          `A strand carries ${note.from} into ${to.input} of ${to.node}, which is ` +
            `${note.to}: they are not the same thing, and nothing converts them. Carry it as ` +
            'a plain number if that is meant.',
          to.node,
          'warning',
        );
      const key = `${to.node}/${to.input}`;
      if (taken.has(key) && !takesMany(target))
        this.add(
          'strand.twice',
          [...at, 'to'],
          `Two strands end at ${to.node}.${to.input}, which takes one.`,
          to.node,
        );
      taken.add(key);
    });
  }

  /** Groups may not contain themselves, nor nest too deep, nor unfold to too many nodes. */
  checkNesting(): void {
    const sizes = new Map<string, number>();
    const open: string[] = [];
    const sizeOf = (id: string): number => {
      const known = sizes.get(id);
      if (known !== undefined) return known;
      const group = this.document.groups[id];
      if (!group) return 0;
      if (open.includes(id)) {
        const names = open.map((each) => this.document.groups[each]?.name ?? each);
        const way = open.length > 1 ? `, by way of ${names.join(' → ')}` : '';
        this.add(
          'group.contains-itself',
          ['groups', id],
          `The group “${group.name}” contains itself${way}. ` + 'Take it out of its own network.',
        );
        sizes.set(id, 0);
        return 0;
      }
      if (open.length >= LIMITS.groupDepth) {
        this.add(
          'group.too-deep',
          ['groups', id],
          `Groups nest deeper than ${String(LIMITS.groupDepth)} levels at “${group.name}”.`,
        );
        return 0;
      }
      open.push(id);
      const size = group.network.nodes.reduce(
        (sum, node) => sum + 1 + (node.group === undefined ? 0 : sizeOf(node.group)),
        0,
      );
      open.pop();
      if (!sizes.has(id)) sizes.set(id, size);
      return size;
    };
    for (const id of Object.keys(this.document.groups)) sizeOf(id);
    const total = this.document.network.nodes.reduce(
      (sum, node) => sum + 1 + (node.group === undefined ? 0 : sizeOf(node.group)),
      0,
    );
    if (total > LIMITS.nodes)
      this.add(
        'network.too-large',
        ['network'],
        `With its groups opened the network has ${String(total)} nodes; the limit is ` +
          `${String(LIMITS.nodes)}.`,
      );
  }
}

/** A formula's error as a finding at its node; the message names the character. */
export function formulaFinding(error: FormulaError, path: Path, node: NodeInstance): Diagnostic {
  return {
    code: 'formula.wrong',
    severity: 'error',
    pointer: pointer(path),
    message:
      `The formula of “${node.name ?? findDefinition(node.type)?.title ?? node.type}” ` +
      `cannot be used. ${error.message}`,
    nodeId: node.id,
    portId: 'formula',
  };
}

function fits(kind: PortKind, value: unknown): boolean {
  switch (kind) {
    case 'scalar':
    case 'fixed':
      return typeof value === 'number';
    case 'vector':
    case 'colour':
      return isTriple(value);
    case 'flex':
      return typeof value === 'number' || isTriple(value);
    case 'ramp':
      return isRamp(value);
    case 'curve':
      return isCurve(value);
    case 'image':
      return isImage(value);
    case 'formula':
      return isFormula(value);
    case 'surface':
    case 'scalars':
      return false;
  }
}

function kindWord(kind: PortKind): string {
  switch (kind) {
    case 'scalar':
    case 'fixed':
    case 'scalars':
      return 'number';
    case 'vector':
      return 'vector (three numbers)';
    case 'colour':
      return 'colour (three numbers)';
    case 'flex':
      return 'number, vector or colour';
    case 'ramp':
      return 'ramp';
    case 'curve':
      return 'curve';
    case 'image':
      return 'image';
    case 'formula':
      return 'formula';
    case 'surface':
      return 'surface';
  }
}
