import { own } from '../base/own';
import { findNodeDefinition } from './catalogue';
import type { InputView, OutputView, PortsView } from './catalogue';
import type { Network, NodeInstance } from '../graph/document';
import type { Family } from '../nodes/define';
import type { InputPort, PortKind } from '../nodes/define';
import type { Quantity } from '../nodes/quantities';

/** Kinds of inputs that may stand for an output of a kind while their node is off. */
const PASSES: Readonly<Partial<Record<PortKind, readonly PortKind[]>>> = {
  scalar: ['scalar', 'scalars', 'flex', 'colour'],
  colour: ['colour', 'flex', 'scalar', 'scalars'],
  vector: ['vector', 'flex'],
  flex: ['flex', 'scalar', 'colour', 'vector', 'scalars'],
  surface: ['surface'],
};
/** Families that make something new: their settings are not what they are about. */
const MAKERS: ReadonlySet<Family> = new Set(['patterns', 'model', 'constants', 'optics']);
/** Of these nothing is about what arrives. */
const SOURCES: ReadonlySet<Family> = new Set(['model', 'constants']);

/** Whether an input stands for another thing than an output: a length is no mask. */
const isOther = ({ unit, quantity }: InputPort, given: Quantity | undefined): boolean =>
  unit !== undefined || (quantity !== undefined && quantity !== 'mask' && quantity !== given);

/**
 * The input that an output passes on while its node is off: the node's first input where it fits;
 * else the first wired one that does. Undefined where nothing fits: then nothing is passed.
 */
export function passedInput(
  node: NodeInstance,
  { inputs }: PortsView,
  output: OutputView,
  isWired: (input: string) => boolean,
): InputView | undefined {
  const definition = findNodeDefinition(node);
  const given = own(definition?.outputs, output.id)?.quantity;
  const fits = ({ kind, port }: InputView): boolean =>
    (PASSES[output.kind]?.includes(kind) ?? false) && (!port || !isOther(port, given));
  const family = definition?.family;
  if (family && SOURCES.has(family)) return undefined;
  const [first] = inputs;
  if (first && fits(first)) return first;
  if (family && MAKERS.has(family)) return undefined;
  return inputs.find((input) => fits(input) && isWired(input.id));
}

/** Whether a node passes something on while it is off; one that does not is a source. */
export function passesOn(
  node: NodeInstance,
  ports: PortsView,
  { strands }: Pick<Network, 'strands'>,
): boolean {
  const isWired = (input: string): boolean =>
    strands.some(({ to }) => to.node === node.id && to.input === input);
  return ports.outputs.some((output) => passedInput(node, ports, output, isWired) !== undefined);
}
