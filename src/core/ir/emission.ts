import { assert, present } from '../base/assert';
import { MEANING } from './fold';
import type { Block, Bool, F32, Func, I32, LaneType, Operation, Value } from './types';

interface EmitExtras {
  immediate?: number;
  rowSize?: number;
  laneUniform?: boolean;
  type?: LaneType;
}

const keyOf = (
  operation: Operation,
  type: LaneType,
  args: readonly Value[],
  extras: EmitExtras,
): string =>
  [
    `${operation}.${type}`,
    args.map((arg) => arg.id).join(','),
    Object.is(extras.immediate, -0) ? '-0' : String(extras.immediate ?? 0),
    String(extras.rowSize ?? 0),
  ].join(':');

const COMMUTATIVE = new Set<Operation>([
  'add',
  'mul',
  'iadd',
  'imul',
  'iand',
  'ior',
  'ixor',
  'and',
  'or',
  'eq',
  'ieq',
]);

/**
 * Blocks of values while they are built. Emitting folds constants (in f32, so that no bit changes),
 * shares equal subexpressions and puts each value into the outermost block in which its operands
 * exist, which hoists loop-invariant and uniform work out of loops and out of the per-point body.
 */
export class Emission {
  private nextId = 0;
  protected current: Block;
  protected readonly prologue: Block;
  protected readonly body: Block;
  protected readonly inputs: string[] = [];
  protected uniforms = 0;
  protected images = 0;

  constructor() {
    this.prologue = this.makeBlock(null);
    this.body = this.makeBlock(this.prologue);
    this.current = this.body;
  }

  protected makeBlock(parent: Block | null): Block {
    return {
      depth: parent ? parent.depth + 1 : 0,
      parent,
      values: [],
      parameters: [],
      results: [],
      known: new Map(),
    };
  }

  protected make<T extends LaneType>(
    operation: Operation,
    type: T,
    args: readonly Value[],
    block: Block,
    extras: EmitExtras & { body?: Block; callee?: Func } = {},
  ): Value<T> {
    return {
      id: this.nextId++,
      type,
      operation,
      args,
      block,
      immediate: extras.immediate ?? 0,
      rowSize: extras.rowSize ?? 0,
      laneUniform: extras.laneUniform ?? args.every((arg) => arg.laneUniform),
      ...(extras.body ? { body: extras.body } : {}),
      ...(extras.callee ? { callee: extras.callee } : {}),
    };
  }

  private rootOf(block: Block): Block {
    let at = block;
    while (at.parent) at = at.parent;
    return at;
  }

  /** The outermost block of the current function in which all operands exist. */
  protected placeFor(args: readonly Value[]): Block {
    let deepest = this.rootOf(this.current);
    for (const arg of args) if (arg.block.depth > deepest.depth) deepest = arg.block;
    return deepest;
  }

  /** Emits a plain operation, folded, shared and hoisted. */
  emit<T extends LaneType>(
    operation: Operation,
    type: T,
    given: readonly Value[],
    extras: EmitExtras = {},
  ): Value<T> {
    const args =
      COMMUTATIVE.has(operation) &&
      given.length === 2 &&
      present(given[0], 'operand').id > present(given[1], 'operand').id
        ? [present(given[1], 'operand'), present(given[0], 'operand')]
        : given;
    const meaning = MEANING[operation];
    if (meaning && args.length > 0 && args.every((arg) => arg.operation === 'constant')) {
      const raw = meaning(args[0]?.immediate ?? 0, args[1]?.immediate ?? 0, extras.immediate ?? 0);
      return this.constant(type, type === 'f32' ? Math.fround(raw) : raw);
    }
    const block = this.placeFor(args);
    const key = keyOf(operation, type, args, extras);
    const known = block.known.get(key);
    if (known) return known as Value<T>;
    const value = this.make(operation, type, args, block, extras);
    block.values.push(value);
    block.known.set(key, value);
    return value;
  }

  private constant<T extends LaneType>(type: T, value: number): Value<T> {
    return this.emit('constant', type, [], { immediate: value, laneUniform: true });
  }

  /** A single-precision constant (rounded). */
  f(value: number): F32 {
    return this.constant('f32', Math.fround(value));
  }
  /** A 32-bit integer constant (wrapped). */
  i(value: number): I32 {
    return this.constant('i32', value | 0);
  }
  bool(value: boolean): Bool {
    return this.constant('bool', value ? 1 : 0);
  }

  /** A value of the point at hand, by name. */
  input(name: string): F32 {
    let index = this.inputs.indexOf(name);
    if (index < 0) index = this.inputs.push(name) - 1;
    const key = `input:${String(index)}`;
    const known = this.body.known.get(key);
    if (known) return known as F32;
    const value = this.make('input', 'f32', [], this.body, {
      immediate: index,
      laneUniform: false,
    });
    this.body.values.push(value);
    this.body.known.set(key, value);
    return value;
  }

  inputName(value: Value): string {
    return present(this.inputs[value.immediate], 'input name');
  }

  /** Reserves uniforms and returns the index of the first; `align` rows to that many floats. */
  reserveUniforms(count: number, align = 1): number {
    this.uniforms = Math.ceil(this.uniforms / align) * align;
    const base = this.uniforms;
    this.uniforms += count;
    return base;
  }

  uniform(index: number): F32 {
    return this.emit('uniform', 'f32', [], { immediate: index, laneUniform: true });
  }

  /** Reads uniforms[base + column + row × rowSize]; the row must be the same in every lane. */
  table(base: number, rowSize: number, row: I32, column: number): F32 {
    assert(
      row.laneUniform && rowSize % 4 === 0 && base % 4 === 0,
      'table rows are uniform and aligned to four',
    );
    return this.emit('table', 'f32', [row], {
      immediate: base + column,
      rowSize,
      laneUniform: true,
    });
  }

  /** Reserves a place for an image and returns its number. */
  reserveImage(): number {
    return this.images++;
  }
  /**
   * A channel (0–3) of the texel of an image's sheet at a column and row, which must lie in it.
   */
  texel(image: number, channel: number, column: I32, row: I32): F32 {
    return this.emit('texel', 'f32', [column, row], { immediate: image * 4 + channel });
  }
}
