import { findDefinition } from './catalogue';
import { outputKey } from '../graph/result-key';
import { OUTPUT_EDGE, SURFACE_OUTPUT, emptyDocument } from '../graph/document';
import type { InputValue, NetworkDocument, NodeInstance, Strand } from '../graph/document';
import type { InputPort, NodeDefinition } from '../nodes/define';

/** A node in a small network that shows what it does. */
export interface NodeExample {
  readonly document: NetworkDocument;
  /** The output shown: its result key; the finished surface where it is a surface. */
  readonly shown: string;
}

const instance = (
  id: string,
  type: string,
  values: Record<string, InputValue> = {},
  options: Record<string, string> = {},
): NodeInstance => ({
  id,
  type,
  version: findDefinition(type)?.version ?? 1,
  at: [0, 0],
  values,
  options,
});

/**
 * What feeds the inputs that would otherwise be one value everywhere, in turn; each with its
 * output.
 */
const FEEDS = {
  scalar: [
    [instance('passage', 'gradients.gradient'), 'value'],
    [instance('clouds', 'patterns.fractal-noise', { scale: 6, octaves: 5, stretch: 2 }), 'value'],
    [instance('cells', 'patterns.cell-noise', { scale: 7 }), 'nearest'],
  ],
  colour: [
    [instance('paint', 'patterns.fractal-noise', { scale: 3, octaves: 3, stretch: 1.2 }), 'colour'],
    [instance('tint', 'gradients.palette', { base: [0.55, 0.16, 0.05] }), 'second'],
  ],
  surface: [
    [
      instance('under', 'surface.surface', { baseColour: [0.05, 0.16, 0.2], roughness: 0.3 }),
      'surface',
    ],
    [
      instance('over', 'surface.surface', { baseColour: [0.6, 0.22, 0.08], roughness: 0.7 }),
      'surface',
    ],
  ],
} as const satisfies Record<string, readonly (readonly [NodeInstance, string])[]>;

/** How many of the first inputs of a kind are fed: the others keep their designed values. */
const FED = { scalar: 1, colour: 1, surface: 2 } as const;
/** A second varying scalar only helps where both are judged against each other. */
const PAIRED = /^(mask|masks|a|b|under|over|distances|cuts|where|which|number)$/;

/** The range over which an input is tried, where what it stands for is not 0 to 1. */
function domainOf(port: InputPort | undefined): readonly [number, number] | null {
  if (port?.kind !== 'scalar' || (port.quantity === undefined && port.unit === undefined))
    return null;
  const { soft } = port;
  return soft && (soft[0] !== 0 || soft[1] !== 1) ? soft : null;
}

/** The first output, but for one that only gives back what is fed in. */
function shownOutput({ inputs, outputs }: NodeDefinition, fed: readonly string[]) {
  const all = Object.entries(outputs);
  const given = fed.map((input) => inputs[input]?.quantity);
  const isNew = ([, { kind, quantity }]: (typeof all)[number]): boolean =>
    kind === 'surface' ||
    quantity === undefined ||
    quantity === 'mask' ||
    !given.includes(quantity);
  return all.find(isNew) ?? all[0];
}

function feedKind(port: InputPort): keyof typeof FEEDS | null {
  if (port.kind === 'scalar' || port.kind === 'flex' || port.kind === 'scalars') return 'scalar';
  return port.kind === 'colour' || port.kind === 'surface' ? port.kind : null;
}

/**
 * A document in which a node is fed so that its first output varies over the surface. Nodes with
 * patterns of their own are left as they are.
 */
export function makeExample(definition: NodeDefinition): NodeExample {
  const node = instance('shown', definition.id);
  const nodes = new Map<string, NodeInstance>([
    [node.id, { ...node, version: definition.version }],
  ]);
  const strands: Strand[] = [];
  const used = { scalar: 0, colour: 0, surface: 0 };
  const wire = (input: string, kind: keyof typeof FEEDS, order = 0): void => {
    const list: readonly (readonly [NodeInstance, string])[] = FEEDS[kind];
    const feed = list[used[kind]++ % list.length];
    if (!feed || feed[0].type === definition.id) return;
    nodes.set(feed[0].id, feed[0]);
    const strand = (from: Strand['from'], to: Strand['to'], at = 0): void => {
      strands.push({ id: `w${String(strands.length)}`, from, to, order: at });
    };
    const from = { node: feed[0].id, output: feed[1] };
    const domain = domainOf(definition.inputs[input]);
    if (!domain) {
      strand(from, { node: node.id, input }, order);
      return;
    }
    const [outLow, outHigh] = domain;
    const over = instance(`over-${input}`, 'ranges.remap', { outLow, outHigh });
    nodes.set(over.id, over);
    strand({ node: over.id, output: 'value' }, { node: node.id, input }, order);
    strand(from, { node: over.id, input: 'value' });
  };
  const isSelfVarying =
    Object.values(definition.inputs).some((port) => typeof port.default === 'string') ||
    definition.family === 'model';
  for (const [id, port] of Object.entries(definition.inputs)) {
    const kind = feedKind(port);
    if (!kind) continue;
    if (port.kind === 'scalars') {
      wire(id, kind, 0);
      wire(id, kind, 1);
      continue;
    }
    if (
      kind === 'scalar' &&
      (isSelfVarying
        ? !/^(mask|height|tone)$/.test(id)
        : used.scalar >= FED.scalar && !(PAIRED.test(id) && used.scalar < 2))
    )
      continue;
    if (kind === 'colour' && (isSelfVarying || used.colour >= FED.colour)) continue;
    wire(id, kind);
  }
  return endWith(definition, [...nodes.values()], strands);
}

/** The network with what is shown of it at its end. */
function endWith(
  definition: NodeDefinition,
  nodes: readonly NodeInstance[],
  strands: readonly Strand[],
): NodeExample {
  const fed = strands.filter(({ to }) => to.node === 'shown').map(({ to }) => to.input);
  const [output = '', port] = shownOutput(definition, fed) ?? [];
  const isSurface = port?.kind === 'surface';
  const base = emptyDocument(definition.title);
  const end: Strand = {
    id: 'end',
    from: { node: 'shown', output },
    to: { node: OUTPUT_EDGE, input: SURFACE_OUTPUT },
    order: 0,
  };
  const network = { ...base.network, nodes, strands: isSurface ? [...strands, end] : strands };
  return {
    document: { ...base, network },
    shown: isSurface ? 'surface' : outputKey(['shown'], output),
  };
}
