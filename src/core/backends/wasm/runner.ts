import { present } from '../../base/assert';
import { NO_IMAGE } from '../../base/image';
import type { ImageAtlas } from '../../base/image';
import type { Program } from '../../ir/types';
import { BLOCK_POINTS, emitWasm, layOut } from './emit';
import { threadMemory } from './thread-memory';
import type { EmittedModule } from './emit';

/** Per-point lanes by name; a lane that is absent reads as zero. */
export type LaneSource = (name: string) => Float32Array | undefined;

interface ModuleExports {
  readonly run: (bytes: number) => void;
}

/** A compiled program in this thread. */
export class WasmRunner {
  private readonly exports: ModuleExports;
  private readonly emitted: EmittedModule;
  private images: readonly ImageAtlas[] = [];

  constructor(readonly program: Program) {
    const { memory } = threadMemory;
    this.emitted = emitWasm(program, threadMemory.take(this, layOut(program).bytes));
    const instance = new WebAssembly.Instance(new WebAssembly.Module(this.emitted.bytes), {
      thread: { memory },
    });
    this.setImages([]);
    this.exports = instance.exports as unknown as ModuleExports;
  }

  get moduleBytes(): number {
    return this.emitted.bytes.length;
  }

  setUniforms(values: Float32Array): void {
    new Float32Array(
      threadMemory.memory.buffer,
      this.emitted.layout.uniforms,
      this.program.uniformCount,
    ).set(values.subarray(0, this.program.uniformCount));
  }

  /**
   * The images the program reads, by number; one that is missing is a grey texel. They stay alive
   * as long as the runner reads them.
   */
  setImages(images: readonly ImageAtlas[]): void {
    this.images = Array.from({ length: this.program.imageCount }, (_, k) => images[k] ?? NO_IMAGE);
    const places = this.images.map((image) => threadMemory.placeImage(image));
    const directory = new Int32Array(
      threadMemory.memory.buffer,
      this.emitted.layout.images,
      Math.max(1, this.images.length) * 4,
    );
    this.images.forEach((image, k) => {
      directory[k * 4] = places[k] ?? 0;
      directory[k * 4 + 1] = image.stride;
    });
  }

  /**
   * Evaluates `count` points, block by block.
   * @param lanes per-point inputs, each at least `start + count` long
   * @param outputs one array per program output, each at least `start + count` long, filled from
   *   `start`; an empty array leaves its output unread
   */
  run(lanes: LaneSource, count: number, outputs: readonly Float32Array[], start = 0): void {
    const { layout } = this.emitted;
    const memory = threadMemory.memory.buffer;
    const { isRead, isVarying } = this.emitted;
    const sources = this.program.inputs.map((name, k) => (isRead[k] ? lanes(name) : undefined));
    const slots = layout.inputs.map((offset) => new Float32Array(memory, offset, BLOCK_POINTS));
    const results = layout.outputs.map((offset) => new Float32Array(memory, offset, BLOCK_POINTS));
    sources.forEach((source, k) => {
      if (!source && isRead[k]) present(slots[k], 'input slot').fill(0);
    });
    const isWanted = (k: number): boolean => present(outputs[k], 'output').length > 0;
    const varying = isVarying.flatMap((varies, k) => (varies && isWanted(k) ? [k] : []));
    for (let at = start; at < start + count; at += BLOCK_POINTS) {
      const size = Math.min(BLOCK_POINTS, start + count - at);
      for (let k = 0; k < sources.length; k++) {
        const source = sources[k];
        if (source) present(slots[k], 'input slot').set(source.subarray(at, at + size));
      }
      this.exports.run(Math.ceil(size / 4) * 16);
      const isWhole = size === BLOCK_POINTS;
      for (const k of varying) {
        const result = present(results[k], 'output slot');
        present(outputs[k], 'output').set(isWhole ? result : result.subarray(0, size), at);
      }
    }
    if (count > 0) this.fillUniform(results, outputs, start, count);
  }

  /** Outputs that are the same at every point are written to the first point only. */
  private fillUniform(
    results: readonly Float32Array[],
    outputs: readonly Float32Array[],
    start: number,
    count: number,
  ): void {
    this.emitted.isVarying.forEach((varies, k) => {
      const output = present(outputs[k], 'output');
      if (!varies && output.length > 0)
        output.fill(present(results[k], 'output slot')[0] as number, start, start + count);
    });
  }
}
