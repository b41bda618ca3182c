/**
 * What a model costs before masks show on it: unwrapping, the first look at occlusion, the finished
 * map, and memory at the limit.
 */
import { fork } from 'node:child_process';
import path from 'node:path';
import { unwrapFast } from '@/core/exchange/unwrap';
import { MAP_SIZE, MeshAnalysis } from '@/core/mesh/analysis';
import { smoothNormals } from '@/core/mesh/smooth-normals';
import { completeMesh } from '@/core/mesh/surface-mesh';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { median, timed } from '../core/evaluate';
import { OCCLUSION_SIDE, bumpyTorus } from './occlusion';

export interface ModelFigures {
  readonly triangles: number;
  readonly unwrap: number;
  readonly coverage: number;
  readonly first: number;
  readonly finished: number;
  readonly curvature: number;
}

/** The bumpy torus as a model without texture coordinates, read as any other. */
export function torusModel(n: number): { readonly mesh: SurfaceMesh; readonly unwrap: number } {
  const { positions, indices } = bumpyTorus(n);
  const shaded = smoothNormals({ positions, indices }, Math.PI);
  let unwrapped = { sources: new Uint32Array(), atlas: new Float32Array(), indices };
  const unwrap = timed(() => {
    unwrapped = unwrapFast(shaded.positions, shaded.indices);
  });
  const spread = (values: Float32Array): Float32Array<ArrayBuffer> => {
    const result = new Float32Array(unwrapped.sources.length * 3);
    for (let v = 0; v < unwrapped.sources.length; v++)
      for (let axis = 0; axis < 3; axis++)
        result[v * 3 + axis] = values[(unwrapped.sources[v] as number) * 3 + axis] as number;
    return result;
  };
  const arrays = {
    positions: spread(shaded.positions),
    normals: spread(shaded.normals),
    uvs: unwrapped.atlas,
    atlas: unwrapped.atlas,
    atlasIsAutomatic: true,
    indices: unwrapped.indices,
    parts: new Uint32Array(indices.length / 3),
  };
  return { mesh: completeMesh({ name: 'torus', ...arrays }), unwrap };
}

/** First look and finished map of occlusion on 80,000 triangles, one thread; medians. */
export function measureModel(rounds: number): ModelFigures {
  const rows = Array.from({ length: rounds }, () => {
    const { mesh, unwrap } = torusModel(OCCLUSION_SIDE);
    const settings = {
      kind: 'occlusion',
      reach: mesh.size * 0.25,
      coneRad: Math.PI / 2,
      falloff: 0,
      side: 'open',
    } as const;
    const quick = new MeshAnalysis(mesh),
      fine = new MeshAnalysis(mesh);
    quick.kernel.castRays(new Float32Array(8));
    fine.kernel.castRays(new Float32Array(8));
    const first = timed(() => quick.quickMap(settings, MAP_SIZE.quick)),
      finished = timed(() => fine.fineMap(settings, MAP_SIZE.fine));
    const curvature = timed(() =>
      fine.fineMap({ kind: 'curvature', radius: mesh.size * 0.03 }, MAP_SIZE.fine),
    );
    return {
      unwrap,
      first,
      finished,
      curvature,
      coverage: fine.texelCount(MAP_SIZE.fine) / MAP_SIZE.fine ** 2,
    };
  });
  const of = (pick: (row: (typeof rows)[number]) => number): number => median(rows.map(pick));
  return {
    triangles: 2 * OCCLUSION_SIDE ** 2,
    unwrap: of((row) => row.unwrap),
    coverage: of((row) => row.coverage),
    first: of((row) => row.first),
    finished: of((row) => row.finished),
    curvature: of((row) => row.curvature),
  };
}

export interface LimitFigures {
  readonly triangles: number;
  readonly megabytes: number;
  readonly kernel: number;
  readonly seconds: number;
}

/**
 * The most memory a process takes to read a model at the limit of triangles and measure a first
 * look, in a process of its own.
 */
export async function measureLimit(): Promise<LimitFigures> {
  const child = fork(path.resolve(import.meta.dirname, 'model-limit.ts'), {
    execArgv: ['--import', 'tsx', '--max-old-space-size=6000'],
  });
  return new Promise((resolve, reject) => {
    child.on('message', (figures: LimitFigures) => {
      resolve(figures);
    });
    child.on('exit', (code) => {
      if (code !== 0) reject(new Error(`The process at the limit ended with ${String(code)}.`));
    });
  });
}
