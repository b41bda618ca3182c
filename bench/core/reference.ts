/**
 * The same work written by hand in C and compiled by clang to WebAssembly SIMD: what compiled
 * networks are measured against.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

/** Points the reference evaluates in one call; fixed in its source. */
const POINTS = 1 << 20;

interface Exports {
  readonly memory: WebAssembly.Memory;
  inp(lane: number): number;
  run(): void;
}

/** Milliseconds per million points, each time it is called; null without clang and lld. */
export function makeReference(): (() => number) | null {
  const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-reference-'));
  try {
    const file = path.join(folder, 'network.wasm');
    const flags = [
      '--target=wasm32',
      '-O3',
      '-msimd128',
      '-ffast-math',
      '-w',
      '-nostdlib',
      '-ffreestanding',
      '-Wl,--no-entry',
      '-Wl,--export=inp',
      '-Wl,--export=outp',
      '-Wl,--export=run',
    ];
    if (
      spawnSync('clang', [
        ...flags,
        '-o',
        file,
        path.resolve(import.meta.dirname, '../reference/network-wasm.c'),
      ]).status !== 0
    )
      return null;
    const exports = new WebAssembly.Instance(new WebAssembly.Module(readFileSync(file)))
      .exports as unknown as Exports;
    for (let lane = 0; lane < 6; lane++) {
      const values = new Float32Array(exports.memory.buffer, exports.inp(lane), POINTS);
      for (let k = 0; k < POINTS; k++) values[k] = ((k * (lane * 7 + 13)) % 100003) / 100003;
    }
    return () => {
      const began = performance.now();
      exports.run();
      return ((performance.now() - began) * 1e6) / POINTS;
    };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
