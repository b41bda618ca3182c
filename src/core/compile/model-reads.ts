import { laneName } from '../base/lane-name';
import type { Axis, Component, VectorLane } from '../base/lane-name';
import { LIMITS } from '../graph/document';
import type { Builder } from '../ir/builder';
import type { F32, Lanes3 } from '../ir/types';
import { zip3 } from '../nodes/lanes';
import type { LightLanes, ModelReads } from '../nodes/define';
import { LIGHT_ROW } from './lights';
import { MODEL_UNIFORMS } from './uniforms';
import type { Binding } from './uniforms';

/** What is antialiased over the width that a sample stands for. */
export type Antialiased = readonly ('images' | 'steps')[];
/** What all nodes of a program read alike. */
export type SharedReads = Omit<ModelReads, 'meshMap' | 'isWired' | 'isFed' | 'isUsed'>;

/**
 * What nodes read of the model and the scene, as inputs and uniforms of a program. What is bound on
 * the way is added to `bindings`.
 */
export function makeModelReads(
  b: Builder,
  bindings: Binding[],
  antialias: Antialiased,
): SharedReads {
  const base = b.reserveUniforms(MODEL_UNIFORMS, 4);
  const lane = (of: VectorLane, component: Axis, slope?: Axis): F32 =>
    b.input(laneName({ of, component, ...(slope ? { slope } : {}) }));
  const lanes = (of: VectorLane): Lanes3 => [lane(of, 'x'), lane(of, 'y'), lane(of, 'z')];
  const slopes = (of: VectorLane, component: Axis): Lanes3 => [
    lane(of, component, 'x'),
    lane(of, component, 'y'),
    lane(of, component, 'z'),
  ];
  const uniforms = (at: number): Lanes3 => [
    b.uniform(base + at),
    b.uniform(base + at + 1),
    b.uniform(base + at + 2),
  ];
  const [cosine, sine] = [b.uniform(base + 12), b.uniform(base + 13)];
  const turned = ([x, y, z]: Lanes3): Lanes3 => [
    b.add(b.mul(cosine, x), b.mul(sine, z)),
    y,
    b.sub(b.mul(cosine, z), b.mul(sine, x)),
  ];
  let lights: readonly LightLanes[] | null = null;
  return {
    position: lanes('position'),
    normal: lanes('normal'),
    faceNormal: lanes('faceNormal'),
    textureCoordinates: [lane('uv', 'x'), lane('uv', 'y'), b.f(0)],
    textureSlopes: () => [slopes('uv', 'x'), slopes('uv', 'y')],
    view: () => lanes('view'),
    part: () => ({ id: b.input(laneName({ of: 'part.id' })), centre: lanes('part.centre') }),
    attribute: (name) => {
      const at = (component: Component): F32 =>
        b.input(laneName({ of: 'attribute', name, component }));
      const index = b.reserveUniforms(1);
      bindings.push({ index, shape: 'scalar', source: { from: 'attribute', name } });
      return { width: b.uniform(index), lanes: [at('x'), at('y'), at('z'), at('w')] };
    },
    lights: () => (lights ??= lightLanes(b, bindings)),
    footprint: (of) => (antialias.includes(of) ? b.input(laneName({ of: 'footprint' })) : null),
    inWorld: {
      position: (at) =>
        zip3(turned(at), uniforms(8), (x, to) => b.add(b.mul(x, b.uniform(base + 11)), to)),
      direction: turned,
    },
    size: b.uniform(base),
    boundsMinimum: uniforms(1),
    boundsExtent: uniforms(4),
  };
}

function lightLanes(b: Builder, bindings: Binding[]): readonly LightLanes[] {
  const base = b.reserveUniforms(LIMITS.lights * LIGHT_ROW, 4);
  bindings.push({ index: base, shape: 'lights', source: { from: 'lights' } });
  return Array.from({ length: LIMITS.lights }, (_, k) => {
    const lane = (at: number): F32 => b.uniform(base + k * LIGHT_ROW + at);
    return {
      at: [lane(0), lane(1), lane(2)],
      isNear: lane(3),
      colour: [lane(4), lane(5), lane(6)],
    };
  });
}
