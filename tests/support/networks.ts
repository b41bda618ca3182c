import { seededRandom } from '@/core/base/random';
import { buildAtlas } from '@/core/base/image';
import type { ImageAtlas } from '@/core/base/image';
import { bindImages } from '@/core/compile/images';
import type { CompiledNetwork } from '@/core/compile/compile';
import { findDefinition, takesMany } from '@/core/compile/catalogue';
import { OUTPUT_EDGE, SURFACE_OUTPUT, emptyDocument } from '@/core/graph/document';
import type {
  InputValue,
  NetworkDocument,
  NodeInstance,
  Strand,
  Triple,
} from '@/core/graph/document';
import { TYPED_ONLY } from '@/core/nodes/define';
import type { InputPort, NodeDefinition } from '@/core/nodes/define';
import { NODES } from '@/core/nodes/registry.generated';

export const TEST_SCALE = {
  size: 2,
  minimum: [-1, -0.8, -0.9] as Triple,
  extent: [2, 1.6, 1.8] as Triple,
  attributes: [{ name: 'salt', width: 3 }],
};

export function node(
  id: string,
  type: string,
  values: Record<string, InputValue> = {},
  options: Record<string, string> = {},
): NodeInstance {
  const version = findDefinition(type)?.version ?? 1;
  return { id, type, version, at: [0, 0], values, options };
}

/** A strand written as 'n1:value > n2:at'. */
export function strand(text: string, order = 0): Strand {
  const [from, to] = text.split('>').map((part) => part.trim().split(':')) as [
    [string, string],
    [string, string],
  ];
  return {
    id: `s-${text.replace(/[^A-Za-z0-9]+/g, '-')}`,
    from: { node: from[0], output: from[1] },
    to: { node: to[0], input: to[1] },
    order,
  };
}

export function documentOf(
  nodes: readonly NodeInstance[],
  strands: readonly (string | Strand)[] = [],
): NetworkDocument {
  const base = emptyDocument('Test');
  return {
    ...base,
    network: {
      ...base.network,
      nodes,
      strands: strands.map((each, k) => (typeof each === 'string' ? strand(each, k) : each)),
    },
  };
}

const imageRandom = seededRandom(77);
/** A small image of strong contrast, some of it above 1, as every image of a test network. */
export const TEST_IMAGE: ImageAtlas = buildAtlas(
  7,
  5,
  Float32Array.from({ length: 7 * 5 * 4 }, (_, k) =>
    (k & 3) === 3 ? imageRandom() : imageRandom() * 1.5,
  ),
);
/** Puts the test image wherever a program reads one. */
export const bindTestImages = (
  compiled: CompiledNetwork,
  uniforms: Float32Array,
): readonly ImageAtlas[] =>
  bindImages(
    compiled.imageSlots.map((slot) => ({ ...slot, hash: 'test' })),
    uniforms,
    () => TEST_IMAGE,
  );

/** A small number for a text, the same for the same one. */
const hashOf = (text: string): number =>
  Array.from(text.replace(/^map:/, ''), (sign) => sign.charCodeAt(0)).reduce(
    (sum, code) => (Math.imul(sum, 31) + code) & 0xffffff,
    7,
  );

/** Lanes for `count` pseudo-random points of an object about two metres across. */
export function randomLanes(count: number, seed = 1): (name: string) => Float32Array {
  const cache = new Map<string, Float32Array>();
  const random = seededRandom(seed);
  const fill = (make: () => number): Float32Array => Float32Array.from({ length: count }, make);
  const normals = (prefix: string): void => {
    const lanes = ['x', 'y', 'z'].map((axis) => {
      const lane = new Float32Array(count);
      cache.set(`${prefix}.${axis}`, lane);
      return lane;
    });
    for (let k = 0; k < count; k++) {
      const z = random() * 2 - 1;
      const turn = random() * 2 * Math.PI;
      const r = Math.sqrt(1 - z * z);
      [r * Math.cos(turn), r * Math.sin(turn), z].forEach((value, axis) => {
        (lanes[axis] as Float32Array)[k] = value;
      });
    }
  };
  normals('normal');
  normals('faceNormal');
  normals('view');
  for (const axis of ['x', 'y', 'z'])
    cache.set(
      `position.${axis}`,
      fill(() => random() * 2 - 1),
    );
  for (const axis of ['x', 'y'])
    cache.set(
      `uv.${axis}`,
      fill(() => random()),
    );
  return (name) => {
    let lane = cache.get(name);
    if (!lane) {
      // Of a map by its own node: the same whatever groups that is in, and whoever asks first.
      const own = seededRandom(seed + hashOf(name.split('/').at(-1) ?? name));
      lane = fill(() =>
        name === 'footprint'
          ? own() * 0.02
          : name.startsWith('map:') && !/\.d[xyz]$/.test(name)
            ? own()
            : own() - 0.5,
      );
      cache.set(name, lane);
    }
    return lane;
  };
}

/** Formulas that fit whatever is wired in. */
const FORMULAS = [
  'mix(b, c, a)',
  'sin(a) * b + c / d',
  'max(abs(a - b), fract(c)) + step(d, e) * f',
  'float t = length(vec3(1, 2, 2)); vec3 v = a; v.zxy * t - smoothstep(0.0, 1.0, b)',
];

function randomValue(port: InputPort, random: () => number): InputValue | undefined {
  const between = (): number => port.soft[0] + (port.soft[1] - port.soft[0]) * random();
  if (port.kind === 'scalar' || port.kind === 'fixed' || port.kind === 'flex')
    return port.step >= 1 ? Math.round(between()) : between();
  if (port.kind === 'vector' || port.kind === 'colour') return [between(), between(), between()];
  if (port.kind === 'formula')
    return { formula: FORMULAS[Math.floor(random() * FORMULAS.length)] ?? 'a' };
  if (port.kind === 'curve')
    return { points: Array.from({ length: 5 }, (_, k) => [k / 4, random()] as const) };
  if (port.kind !== 'ramp') return undefined;
  const count = 2 + Math.floor(random() * 6);
  const segments = ['hold', 'linear', 'smooth', 'spline'] as const;
  return {
    stops: Array.from({ length: count }, (_, k) => ({
      id: `s${String(k)}`,
      position: random(),
      colour: [random(), random(), random()] as const,
      alpha: 0.2 + 0.8 * random(),
      segment: segments[Math.floor(random() * 4)] ?? 'linear',
      ...(random() < 0.1 ? { open: ['position', 'colour'] as const } : {}),
    })),
  };
}

function randomInstance(
  id: string,
  definition: NodeDefinition,
  random: () => number,
): NodeInstance {
  const values: Record<string, InputValue> = {};
  for (const [name, port] of Object.entries(definition.inputs)) {
    const value =
      random() < 0.6 && typeof port.default !== 'string' ? randomValue(port, random) : undefined;
    if (value !== undefined) values[name] = value;
  }
  const options: Record<string, string> = {};
  for (const [name, entry] of Object.entries(definition.options)) {
    options[name] =
      entry.choices[Math.floor(random() * entry.choices.length)]?.value ?? entry.default;
  }
  return {
    id,
    type: definition.id,
    version: definition.version,
    at: [0, 0],
    values,
    options,
    limited: random() < 0.2,
  };
}

/** A random valid network of `size` nodes: every input may be typed or wired to an earlier node. */
export function randomDocument(
  seed: number,
  size: number,
  allowed: (definition: NodeDefinition) => boolean = () => true,
): NetworkDocument {
  const random = seededRandom(seed);
  const catalogue = NODES.filter(allowed);
  const nodes: NodeInstance[] = [];
  const strands: Strand[] = [];
  const outputs: { node: string; output: string; surface: boolean }[] = [];
  for (let k = 0; k < size; k++) {
    const definition = catalogue[Math.floor(random() * catalogue.length)] as NodeDefinition;
    const instance = randomInstance(`n${String(k)}`, definition, random);
    nodes.push(instance);
    for (const [input, port] of Object.entries(definition.inputs)) {
      if (TYPED_ONLY.has(port.kind)) continue;
      const fitting = outputs.filter((each) => each.surface === (port.kind === 'surface'));
      const times = takesMany(port.kind) ? 3 : 1;
      for (let t = 0; t < times; t++) {
        const source = fitting[Math.floor(random() * fitting.length)];
        if (source && random() < 0.6)
          strands.push({
            id: `w${String(strands.length)}`,
            from: { node: source.node, output: source.output },
            to: { node: instance.id, input },
            order: t,
          });
      }
    }
    for (const [output, port] of Object.entries(definition.outputs))
      outputs.push({ node: instance.id, output, surface: port.kind === 'surface' });
  }
  const end = outputs.filter((each) => each.surface).at(-1);
  if (end)
    strands.push({
      id: 'end',
      from: { node: end.node, output: end.output },
      to: { node: OUTPUT_EDGE, input: SURFACE_OUTPUT },
      order: 0,
    });
  return { ...documentOf(nodes), network: { nodes, strands, regions: [], notes: [] } };
}

/** Every choice of every option of a node, one at a time; none where it has none. */
export function optionVariants(definition: NodeDefinition): Record<string, string>[] {
  const entries = Object.entries(definition.options);
  const single = entries.flatMap(([name, entry]) => [
    ...entry.choices.map((choice) => ({ [name]: choice.value })),
    ...(entry.open ? [{ [name]: 'salt' }] : []),
  ]);
  return single.length > 0 ? single : [{}];
}
