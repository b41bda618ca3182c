import { MESH_KERNEL } from './mesh-kernel.generated';

/** What the compiled kernel (kernel/rays.ts) offers; addresses and counts are whole numbers. */
export interface KernelExports {
  readonly memory: WebAssembly.Memory;
  freeFrom(): number;
  scratchBytes(triangles: number): number;
  build(vertices: number, corners: number, triangles: number, scratch: number): number;
  bytesUsed(): number;
  countMet(root: number, rays: number, count: number): number;
  castRays(root: number, rays: number, count: number, hits: number): void;
  fillDirections(table: number, rays: number, spread: number): void;
  sumUp(root: number, facts: number, room: number): void;
  gather(root: number, points: number, count: number, out: number, radius: number): void;
  measureDistances(
    root: number,
    points: number,
    count: number,
    out: number,
    parts: number,
    other: boolean,
    most: number,
  ): void;
  openness(
    root: number,
    points: number,
    first: number,
    count: number,
    out: number,
    table: number,
    rays: number,
    sign: number,
    start: number,
    reach: number,
    falloff: number,
    floor: number,
    isDetailed: number,
  ): void;
}

let compiled: WebAssembly.Module | null = null;

/** An instance of the kernel with a memory of its own. */
export function instantiate(): KernelExports {
  compiled ??= new WebAssembly.Module(
    Uint8Array.from(atob(MESH_KERNEL), (letter) => letter.charCodeAt(0)),
  );
  // Compiled without assertions: nothing calls the abort it asks for.
  return new WebAssembly.Instance(compiled, { env: { abort: () => undefined } })
    .exports as unknown as KernelExports;
}
