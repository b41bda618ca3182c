import { findDefinition } from '../compile/catalogue';
import { composeStageShader } from '../backends/glsl/stage-shader';
import type { StageShader } from '../backends/glsl/stage-shader';
import { compileNetwork, uniformsFor } from '../compile/compile';
import { BEACON } from '../edit/beacons';
import type { BeaconShape, PlacedBeacon } from '../edit/beacons';
import { emptyDocument } from '../graph/document';
import type { NetworkDocument } from '../graph/document';
import { liveGlsl } from './stage-program';

/** Width of the line, pixels. */
const LINE = 1.4;

/**
 * Draws where a beacon's boundary meets the surface: by the node's own program, so that the line is
 * the mask's border and no other.
 */
export interface BeaconOutline {
  readonly shader: StageShader;
  readonly uniformCount: number;
  readonly values: (beacon: PlacedBeacon) => Float32Array;
}

const SCALE = { size: 1, minimum: [0, 0, 0], extent: [1, 1, 1] } as const;
const documentOf = ({
  shape,
  place,
  turn,
  extent,
}: Pick<PlacedBeacon, 'shape' | 'place' | 'turn' | 'extent'>): NetworkDocument => {
  const empty = emptyDocument('outline');
  return {
    ...empty,
    network: {
      ...empty.network,
      nodes: [
        {
          id: 'b',
          type: BEACON,
          version: findDefinition(BEACON)?.version ?? 1,
          at: [0, 0],
          values: { place, turn, extent },
          options: { shape, measure: 'units' },
        },
      ],
    },
  };
};

/** @param shape one program serves all beacons of it; the uniform `line` is the line's colour */
export function beaconOutline(shape: BeaconShape): BeaconOutline {
  const compiled = compileNetwork(
    documentOf({ shape, place: [0, 0, 0], turn: [0, 0, 0], extent: [1, 1, 1] }),
    { surface: false, taps: ['b:distance'] },
  );
  const glsl = liveGlsl(compiled);
  const shader = composeStageShader(
    { ...glsl, functions: `uniform vec3 line;\n${glsl.functions}` },
    'screen',
    1,
    `
float apart = $0 - 1.0;
float pixels = abs(apart) / max(fwidth(apart), 1e-6);
float covered = 1.0 - smoothstep(${String(LINE / 2)}, ${String(LINE / 2 + 1)}, pixels);
if (covered < 0.02) discard;
target0 = vec4(line, covered);`,
  );
  return {
    shader,
    uniformCount: compiled.program.uniformCount,
    values: (beacon) => uniformsFor(compiled, documentOf(beacon), SCALE),
  };
}
