import { own } from '../base/own';
import { INPUT_EDGE } from '../graph/document';
import type { GroupDefinition, NetworkDocument, NodeInstance } from '../graph/document';
import { passedInput } from './bypass';
import {
  chosenOptions,
  describePorts,
  findGroupDefinition,
  findNodeDefinition,
  neutralValue,
} from './catalogue';

/** What an input is where nothing comes to it that counts. */
export type WithoutInput =
  /** The rest is counted, the other side passed, nothing let through, or nothing made. */
  | 'goes on'
  /** It is a value that changes nothing. */
  | 'neutral'
  /** The node keeps a value of its own: it knows none that changes nothing. */
  | 'own value';

/** The sides of a node that count under its choices; none where it has no two. */
export function sidesOf(node: NodeInstance): readonly string[] {
  const definition = findNodeDefinition(node);
  if (!definition?.sides) return [];
  const options = chosenOptions(definition, node);
  const idle = definition.idle(options);
  return (definition.sides(options) ?? []).filter((side) => !idle.includes(side));
}

/** What a node of the catalogue does without one of its inputs. */
export function withoutInput(
  document: NetworkDocument,
  node: NodeInstance,
  input: string,
): WithoutInput {
  const port = own(findNodeDefinition(node)?.inputs, input);
  const ports = describePorts(document, node);
  const isMain =
    sidesOf(node).includes(input) ||
    ports?.outputs.some((output) => passedInput(node, ports, output, () => false)?.id === input);
  if (port?.kind === 'scalars' || port?.kind === 'surface' || port?.quantity === 'mask' || isMain)
    return 'goes on';
  return neutralValue(node, input) === undefined ? 'own value' : 'neutral';
}

/** Where a port of a group that is neutral meets an input that knows nothing neutral. */
export interface KeptValue {
  readonly node: NodeInstance;
  readonly input: string;
}

/** The first input fed by a port of a group, however deep, that keeps a value of its own. */
export function findKeptValue(
  document: NetworkDocument,
  { network }: GroupDefinition,
  port: string,
  depth = 0,
): KeptValue | null {
  for (const { from, to } of network.strands) {
    if (from.node !== INPUT_EDGE || from.output !== port || depth > 40) continue;
    const node = network.nodes.find(({ id }) => id === to.node);
    const inner = node && findGroupDefinition(document, node);
    const found = inner
      ? findKeptValue(document, inner, to.input, depth + 1)
      : node && withoutInput(document, node, to.input) === 'own value'
        ? { node, input: to.input }
        : null;
    if (found) return found;
  }
  return null;
}
