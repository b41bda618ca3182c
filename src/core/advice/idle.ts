import { own } from '../base/own';
import { findNodeDefinition, idleInputs } from '../compile/catalogue';
import { feedingOut } from './feeding-out';
import { getInputValue } from '../compile/uniforms';
import type { Advice } from '../nodes/advice';
import type { Family, PortKind } from '../nodes/define';
import { isDriven } from './places';
import type { NodePlace } from './places';

/** A node on its board, wherever that is. */
type OnBoard = Pick<NodePlace, 'document' | 'network' | 'node'>;

/**
 * What shows without computing anything: a node gets nothing, multiplies by nothing, leads nowhere,
 * or takes one direction for the surface's own.
 */
export const idleAdvice = (place: OnBoard): readonly Advice[] => [
  ...noSource(place),
  ...idleFactors(place),
  ...fixedNormals(place),
  ...leadsNowhere(place),
];

/** One direction everywhere where the direction of the surface is meant. */
function fixedNormals(place: OnBoard): readonly Advice[] {
  const { network, node } = place;
  const definition = findNodeDefinition(node);
  // A calculation with vectors may be about any direction.
  if (!definition || definition.family === 'math') return [];
  const idle = idleInputs(node);
  return Object.entries(definition.inputs).flatMap(([id, port]) => {
    if (port.kind !== 'vector' || port.default !== 'normal' || idle.includes(id)) return [];
    const strand = network.strands.find(({ to }) => to.node === node.id && to.input === id);
    const source = network.nodes.find((each) => each.id === strand?.from.node);
    const isTyped = !strand && own(node.values, id) !== undefined && !isDriven(place, id);
    if (!isTyped && source?.type !== 'constants.vector') return [];
    return [
      {
        code: 'normal.fixed' as const,
        mark: 'fixed',
        message:
          `${port.title} is one direction all over, in place of the one the surface has there: ` +
          'the form of the model is lost in it.',
        ...(isTyped ? { cure: { title: 'Take the surface’s own', clear: id } } : {}),
      },
    ];
  });
}

/** A card that nothing depends on which goes out of its board. */
function leadsNowhere({ network, node }: OnBoard): readonly Advice[] {
  if (feedingOut(network).has(node.id)) return [];
  return [
    {
      code: 'node.unused',
      tone: 'fact',
      mark: 'loose',
      message: 'It leads nowhere: nothing that goes out of this board depends on it.',
      cure: { title: 'Remove it', remove: true },
    },
  ];
}

/** Families of nodes that shape what comes to them, and make nothing by themselves. */
const SHAPING: ReadonlySet<Family> = new Set(['ranges', 'gradients', 'masks', 'surface']);
const SHAPED: ReadonlySet<PortKind> = new Set(['scalar', 'flex', 'scalars']);

/** A node that shapes values and gets none: what it gives is one value everywhere. */
function noSource(place: OnBoard): readonly Advice[] {
  const { network, node } = place;
  const definition = findNodeDefinition(node);
  const [entry] = Object.entries(definition?.inputs ?? {});
  if (!definition || !entry || node.off || !SHAPING.has(definition.family)) return [];
  const [id, port] = entry;
  const isWired = network.strands.some(({ to }) => to.node === node.id && to.input === id);
  if (isWired || isDriven(place, id) || !SHAPED.has(port.kind)) return [];
  const value = getInputValue(node, id);
  return [
    {
      code: 'input.no-source',
      mark: 'no source',
      message:
        `Nothing is wired into ${port.title}` +
        `${typeof value === 'number' ? `: it is ${String(value)} everywhere` : ''}. Wire a ` +
        'source into it, such as a noise, a slope or a distance.',
      cure: { title: 'Wire a noise into it', source: 'patterns.noise', into: id },
    },
  ];
}

/** What is wired in and multiplied by a value that is typed as 0. */
function idleFactors(place: OnBoard): readonly Advice[] {
  const { node, network } = place;
  const inputs = findNodeDefinition(node)?.inputs ?? {};
  const isWired = (id: string): boolean =>
    network.strands.some(({ to }) => to.node === node.id && to.input === id);
  return Object.entries(inputs).flatMap(([id, { title, factor }]) => {
    const other = factor === undefined ? undefined : own(inputs, factor);
    if (factor === undefined || !other || !isWired(id) || isWired(factor)) return [];
    if (isDriven(place, factor)) return [];
    if (getInputValue(node, factor) !== 0) return [];
    return [
      {
        code: 'factor.idle' as const,
        mark: '×0',
        message: `${title} does nothing: ${other.title} is 0.`,
        cure: { title: `Set ${other.title} to 1`, input: factor, value: 1 },
      },
    ];
  });
}
