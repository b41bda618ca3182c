import { errorMessage } from '../../base/diagnostic';
import { own } from '../../base/own';
import { isChoice, isCurve, isFormula, isRamp, isTriple } from '../../graph/document';
import type {
  ChoiceValue,
  CurveValue,
  InputValue,
  NetworkDocument,
  NodeInstance,
  RampValue,
} from '../../graph/document';
import type { NodeDefinition } from '../../nodes/define';
import { parseFormula } from '../../nodes/formula/parse';
import { FormulaError } from '../../nodes/formula/tokens';
import { describePorts, findDefinition, findGroupDefinition, ofVersion } from '../catalogue';
import type { InputView } from '../catalogue';
import { rampModes } from '../uniforms';
import { fits, kindWord } from './kinds';
import type { CheckReport, DocumentPath } from './report';

/** Checks a node's type, options and typed values. */
export function checkNode(
  report: CheckReport,
  document: NetworkDocument,
  node: NodeInstance,
  at: DocumentPath,
): void {
  if (node.type === 'group') {
    if (!findGroupDefinition(document, node))
      return report.add(
        'group.missing',
        [...at, 'group'],
        `The group “${node.group ?? ''}” is not in this document. Place it from the library ` +
          'again, or remove the node.',
        { node: node.id },
      );
  } else if (!checkType(report, node, at)) return;
  const ports = new Map(describePorts(document, node)?.inputs.map((port) => [port.id, port]));
  for (const [id, value] of Object.entries(node.values))
    checkValue(report, node, ports.get(id), value, [...at, 'values', id]);
}

function checkType(report: CheckReport, node: NodeInstance, at: DocumentPath): boolean {
  const definition = findDefinition(node.type);
  if (!definition) {
    report.add(
      'node.unknown-type',
      [...at, 'type'],
      `There is no node “${node.type}” in this release; it may be of a newer one. Its place, ` +
        'values and strands are kept; open the material there, or replace the node.',
      { node: node.id },
    );
    return false;
  }
  checkVersion(report, definition, node, at);
  for (const [id, value] of Object.entries(node.options)) {
    const entry = Object.hasOwn(definition.options, id) ? own(definition.options, id) : undefined;
    if (entry?.open || entry?.choices.some((choice) => choice.value === value)) continue;
    report.add(
      'option.unknown',
      [...at, 'options', id],
      entry
        ? `“${definition.title}” has no choice “${value}” for ${entry.title.toLowerCase()}.`
        : `“${definition.title}” has no setting ${id}; “${value}” is kept.`,
      { node: node.id },
    );
  }
  return true;
}

function checkVersion(
  report: CheckReport,
  definition: NodeDefinition,
  node: NodeInstance,
  at: DocumentPath,
): void {
  if (ofVersion(definition, node.version)) return;
  const isNewer = node.version > definition.version;
  report.add(
    isNewer ? 'node.unknown-version' : 'node.old-version',
    [...at, 'version'],
    isNewer
      ? `“${definition.title}” is saved as version ${String(node.version)}; this release ` +
          `knows up to ${String(definition.version)}. It is kept as it is; open the material ` +
          'with the newer release, or replace the node.'
      : `“${definition.title}” is of version ${String(node.version)} and was not brought to ` +
          `version ${String(definition.version)}. Save the document and open it again.`,
    { node: node.id },
  );
}

function checkValue(
  report: CheckReport,
  node: NodeInstance,
  port: InputView | undefined,
  value: InputValue,
  at: DocumentPath,
): void {
  if (!port)
    return report.add(
      'node.unknown-input',
      at,
      `“${findDefinition(node.type)?.title ?? node.type}” has no input ${String(at.at(-1))}; ` +
        'the value is kept but not used.',
      { node: node.id, severity: 'warning' },
    );
  if (!fits(port.kind, value))
    return report.add(
      'value.wrong-type',
      at,
      `${port.title} takes a ${kindWord(port.kind)}; what is stored is something else.`,
      { node: node.id },
    );
  if (isFormula(value)) return checkFormula(report, node, value.formula, at);
  if (isRamp(value)) return checkRamp(report, node, value, at);
  if (isCurve(value)) return checkCurve(report, node, value, at);
  if (isChoice(value)) return checkChoice(report, node, port, value, at);
  checkRange(report, node, port, value, at);
}

/** A choice of a dial is one that the dial offers. */
function checkChoice(
  report: CheckReport,
  node: NodeInstance,
  { title, dial }: InputView,
  { choice }: ChoiceValue,
  at: DocumentPath,
): void {
  const choices = dial?.choices ?? [];
  if (choices.length === 0 || choices.some(({ value }) => value === choice)) return;
  report.add(
    'value.out-of-range',
    at,
    `${title} does not offer “${choice}”; it offers ` +
      `${choices.map((each) => each.title).join(', ')}.`,
    { node: node.id, severity: 'warning' },
  );
}

/** Numbers, and each of the three of a vector or colour, within what may be typed. */
function checkRange(
  report: CheckReport,
  node: NodeInstance,
  { title, port, dial }: InputView,
  value: InputValue,
  at: DocumentPath,
): void {
  const hard = dial?.kind === 'scalar' ? dial.hard : port?.hard;
  const numbers = typeof value === 'number' ? [value] : isTriple(value) ? value : [];
  const beyond = hard && numbers.find((each) => each < hard[0] || each > hard[1]);
  if (!hard || beyond === undefined) return;
  const range = `between ${String(hard[0])} and ${String(hard[1])}`;
  report.add(
    'value.out-of-range',
    at,
    `${title} is ${String(beyond)}; it may lie ${range} and is limited to that.`,
    { node: node.id, severity: 'warning' },
  );
}

function checkRamp(
  report: CheckReport,
  node: NodeInstance,
  { stops }: RampValue,
  at: DocumentPath,
): void {
  const seen = new Set<string>();
  const isPlaced = rampModes(node).layout === 'placed';
  stops.forEach((stop, k) => {
    const here = [...at, 'stops', k];
    if (seen.has(stop.id))
      report.add(
        'ramp.duplicate-stop',
        [...here, 'id'],
        `Two stops of the ramp share the id ${stop.id}: an input of one would serve both. ` +
          'Remove one of them.',
        { node: node.id },
      );
    seen.add(stop.id);
    if (isPlaced && (stop.position < 0 || stop.position > 1))
      report.add(
        'ramp.out-of-range',
        [...here, 'position'],
        `Stop ${String(k + 1)} lies at ${String(stop.position)}, outside the ramp (0 to 1).`,
        { node: node.id, severity: 'warning' },
      );
  });
}

function checkCurve(
  report: CheckReport,
  node: NodeInstance,
  { points }: CurveValue,
  at: DocumentPath,
): void {
  const k = points.findIndex(([x], place) => place > 0 && x < (points[place - 1]?.[0] ?? x));
  if (k > 0)
    report.add(
      'curve.unordered',
      [...at, 'points', k],
      `Point ${String(k + 1)} of the curve lies left of the one before it; points are used from ` +
        'left to right.',
      { node: node.id, severity: 'warning' },
    );
}

function checkFormula(
  report: CheckReport,
  node: NodeInstance,
  text: string,
  at: DocumentPath,
): void {
  try {
    parseFormula(text);
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error;
    reportFormula(report, error, node, at);
  }
}

/** A node that the program failed to compute, as a warning at it: everything else is computed. */
export function reportFailure(
  report: CheckReport,
  error: unknown,
  node: NodeInstance,
  at: DocumentPath,
): void {
  const title = node.name ?? findDefinition(node.type)?.title ?? node.type;
  report.add(
    'node.failed',
    at,
    `The program failed at “${title}” and takes what it gives as nothing; the rest is computed. ` +
      `Change what goes in or its settings, or report it: ${errorMessage(error)}`,
    { node: node.id, severity: 'warning' },
  );
}

/** A formula's error as a finding at its node, with the character it is about. */
export function reportFormula(
  report: CheckReport,
  error: FormulaError,
  node: NodeInstance,
  at: DocumentPath,
): void {
  const title = node.name ?? findDefinition(node.type)?.title ?? node.type;
  report.add('formula.wrong', at, `The formula of “${title}” cannot be used. ${error.message}`, {
    node: node.id,
    character: error.at,
  });
}
