/**
 * Occlusion rays and hierarchies of the kernel against a mature native library, where that is
 * installed.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { RAY, MeshKernel } from '@/core/mesh/mesh-kernel';
import { median, timed } from '../core/evaluate';
import { sized } from '../size';

/** n of the torus of 80,000 triangles. */
export const OCCLUSION_SIDE = sized(200, 30);

interface Torus {
  readonly positions: Float32Array<ArrayBuffer>;
  readonly indices: Uint32Array<ArrayBuffer>;
  readonly size: number;
}

/** The reference's mesh: a bumpy torus of 2·n² triangles. */
export function bumpyTorus(n: number): Torus {
  const positions = new Float32Array(n * n * 3),
    indices = new Uint32Array(n * n * 6);
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      const a = (6.2831853 * i) / n,
        b = (6.2831853 * j) / n,
        r = 0.35 + 0.03 * Math.sin(12 * a) * Math.sin(9 * b);
      positions.set(
        [(1 + r * Math.cos(b)) * Math.cos(a), r * Math.sin(b), (1 + r * Math.cos(b)) * Math.sin(a)],
        3 * (i * n + j),
      );
      const p = i * n + j,
        q = ((i + 1) % n) * n + j,
        s = i * n + ((j + 1) % n),
        t = ((i + 1) % n) * n + ((j + 1) % n);
      indices.set([p, s, q, q, s, t], 6 * (i * n + j));
    }
  return { positions, indices, size: 2.8 };
}

/**
 * The reference's rays: 32 a vertex, cosine-weighted about the normal of the torus without bumps.
 */
export function torusRays(n: number, { positions }: Torus): Float32Array {
  let state = 1;
  const uniform = (): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return (state >>> 8) / 16777216;
  };
  const rays = new Float32Array(n * n * 32 * RAY);
  for (let v = 0, at = 0; v < n * n; v++) {
    const a = (6.2831853 * Math.floor(v / n)) / n,
      b = (6.2831853 * (v % n)) / n;
    const normal = [Math.cos(b) * Math.cos(a), Math.sin(b), Math.cos(b) * Math.sin(a)] as const;
    for (let q = 0; q < 32; q++, at += RAY) {
      let x: number, y: number, z: number, l: number;
      do {
        x = uniform() * 2 - 1;
        y = uniform() * 2 - 1;
        z = uniform() * 2 - 1;
        l = x * x + y * y + z * z;
      } while (l > 1 || l < 1e-4);
      l = 1 / Math.sqrt(l);
      const towards = [x, y, z];
      for (let axis = 0; axis < 3; axis++) {
        rays[at + axis] = (positions[v * 3 + axis] as number) + (normal[axis] as number) * 1e-3;
        rays[at + 3 + axis] = (towards[axis] as number) * l + (normal[axis] as number);
      }
      rays[at + 6] = 1e30;
    }
  }
  return rays;
}

/**
 * Builds the reference; gives the milliseconds of its build and its rays per second each time it is
 * called, or null where it cannot be built.
 */
function makeReference(): ((n: number) => readonly [number, number]) | null {
  const program = path.join(
    mkdtempSync(path.join(tmpdir(), 'bright-loom-occlusion-')),
    'occlusion',
  );
  if (
    spawnSync('gcc', [
      '-O3',
      '-march=native',
      '-w',
      '-o',
      program,
      path.resolve(import.meta.dirname, '../reference/occlusion.c'),
      '-lembree3',
      '-lm',
    ]).status !== 0
  )
    return null;
  return (n) => {
    const [build = NaN, rays = NaN] = execFileSync(program, [String(n)], { encoding: 'utf8' })
      .trim()
      .split(' ')
      .map(Number);
    return [build, rays * 1e6];
  };
}

export interface OcclusionFigures {
  readonly triangles: number;
  readonly build: number;
  readonly raysPerSecond: number;
  readonly megabytes: number;
  readonly buildRatio: number | null;
  readonly rayRatio: number | null;
}

/** In turn with the reference: medians, and medians of the ratios. */
export function measureOcclusion(n: number, rounds: number): OcclusionFigures {
  const torus = bumpyTorus(n),
    rays = torusRays(n, torus);
  const reference = makeReference();
  let kernel = new MeshKernel(torus);
  kernel.countMet(rays.subarray(0, 100000 * RAY));
  const rows = Array.from({ length: rounds }, () => {
    const build = timed(() => {
      kernel = new MeshKernel(torus);
    });
    const rate = (rays.length / RAY / timed(() => kernel.countMet(rays))) * 1000;
    const other = reference?.(n) ?? null;
    return {
      build,
      rate,
      buildRatio: other ? build / other[0] : NaN,
      rayRatio: other ? rate / other[1] : NaN,
    };
  });
  const of = (pick: (row: (typeof rows)[number]) => number): number => median(rows.map(pick));
  return {
    triangles: 2 * n * n,
    build: of((row) => row.build),
    raysPerSecond: of((row) => row.rate),
    megabytes: kernel.bytes / 1e6,
    buildRatio: reference ? of((row) => row.buildRatio) : null,
    rayRatio: reference ? of((row) => row.rayRatio) : null,
  };
}
