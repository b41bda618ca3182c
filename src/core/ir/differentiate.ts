import { AXES, parseLaneName, slopeLane } from '../base/lane-name';
import { assert, present } from '../base/assert';
import type { Builder } from './builder';
import type { Block, F32, Func, I32, LaneType, Lanes3, Value } from './types';
import { derivative, plus } from './derivatives';

/** One derivative per direction; null where it is zero whatever the point. */
type Tangents = readonly (F32 | null)[];

/**
 * Forward-mode differentiation: walks values in order and emits, beside each, its derivatives along
 * a few directions. Loops carry their derivatives along; functions get a second version that also
 * returns its partial derivatives. Steps (floor, comparisons, integers) count as locally constant.
 * Source: Griewank and Walther, Evaluating Derivatives, SIAM 2008, chapter 3.
 */
class Forward {
  private readonly primal = new Map<Value, Value>();
  private readonly tangents = new Map<Value, Tangents>();
  private readonly none: Tangents;

  constructor(
    private readonly b: Builder,
    private readonly directions: number,
  ) {
    this.none = Array.from({ length: directions }, () => null);
  }

  seed(value: Value, tangents: Tangents, primal: Value = value): void {
    this.primal.set(value, primal);
    this.tangents.set(value, tangents);
  }
  at(value: Value): Value {
    return this.primal.get(value) ?? value;
  }
  of(value: Value): Tangents {
    return this.tangents.get(value) ?? this.none;
  }

  /**
   * `copy` re-emits the value itself (in a new loop or function); otherwise only its derivatives
   * are emitted.
   */
  visit(value: Value, copy: boolean): void {
    if (value.operation === 'loop') return this.visitLoop(value);
    if (value.operation === 'call') return this.visitCall(value);
    if (
      value.operation === 'loopResult' ||
      value.operation === 'callResult' ||
      value.operation === 'parameter'
    )
      return;
    const args = value.args.map((arg) => this.at(arg));
    const self = copy ? this.b.again(value, args) : value;
    this.primal.set(value, self);
    const active = value.args.some((arg) => this.of(arg).some((t) => t !== null));
    if (active && value.type === 'f32')
      this.tangents.set(value, this.rule(value, self as F32, args as F32[]));
  }

  private rule(value: Value, self: F32, args: readonly F32[]): Tangents {
    const tangentOf = (k: number): Tangents => this.of(present(value.args[k], 'operand'));
    return this.none.map((_, d) =>
      derivative(this.b, value, self, args, (k) => tangentOf(k)[d] ?? null),
    );
  }

  private visitLoop(loop: Value): void {
    const body = present(loop.body, 'loop body');
    const [count, ...initial] = loop.args;
    const floats = initial.map((value, k) => (value.type === 'f32' ? k : -1)).filter((k) => k >= 0);
    const zero = this.b.f(0);
    const start = floats.flatMap((k) =>
      this.of(present(initial[k], 'carried')).map((t) => t ?? zero),
    );
    const all = this.b.loop(
      this.at(present(count, 'count')) as I32,
      [...initial.map((v) => this.at(v)), ...start],
      (index, carried) => {
        this.seed(present(body.parameters[0], 'index'), this.none, index);
        this.bindCarried(body, initial.length, floats, carried);
        for (const value of body.values) this.visit(value, true);
        const results = body.results.map((value) => this.at(value));
        return [
          ...results,
          ...floats.flatMap((k) =>
            this.of(present(body.results[k], 'result')).map((t) => t ?? this.b.f(0)),
          ),
        ];
      },
    );
    this.bindResults(loop, initial.length, floats, all);
  }

  private bindCarried(
    body: Block,
    count: number,
    floats: readonly number[],
    carried: readonly Value[],
  ): void {
    for (let k = 0; k < count; k++) {
      const position = floats.indexOf(k);
      const tangents =
        position < 0
          ? this.none
          : (carried.slice(
              count + position * this.directions,
              count + (position + 1) * this.directions,
            ) as F32[]);
      this.seed(
        present(body.parameters[k + 1], 'carried'),
        tangents,
        present(carried[k], 'carried'),
      );
    }
  }

  private bindResults(
    loop: Value,
    count: number,
    floats: readonly number[],
    all: readonly Value[],
  ): void {
    for (const result of loop.block.values) {
      if (result.operation !== 'loopResult' || result.args[0] !== loop) continue;
      const position = floats.indexOf(result.immediate);
      const tangents =
        position < 0
          ? this.none
          : (all.slice(
              count + position * this.directions,
              count + (position + 1) * this.directions,
            ) as F32[]);
      this.seed(result, tangents, present(all[result.immediate], 'loop result'));
    }
  }

  private visitCall(call: Value): void {
    const callee = present(call.callee, 'callee');
    const args = call.args.map((arg) => this.at(arg));
    const active = call.args
      .map((arg, k) => (this.of(arg).some((t) => t !== null) ? k : -1))
      .filter((k) => k >= 0);
    const partials =
      active.length > 0
        ? this.b.call(partialsOf(this.b, callee, active), args)
        : this.b.call(callee, args);
    const results = callee.body.results;
    for (const result of call.block.values) {
      if (result.operation !== 'callResult' || result.args[0] !== call) continue;
      const k = result.immediate;
      if (active.length === 0 || present(results[k], 'result').type !== 'f32') {
        this.seed(result, this.none, present(partials[k], 'result'));
        continue;
      }
      const base = results.length + k * active.length;
      const tangents = this.none.map((_, d) => {
        let sum: F32 | null = null;
        active.forEach((j, position) => {
          const t = this.of(present(call.args[j], 'argument'))[d] ?? null;
          if (t) sum = plus(this.b, sum, this.b.mul(partials[base + position] as F32, t));
        });
        return sum;
      });
      this.seed(result, tangents, present(partials[k], 'result'));
    }
  }
}

/**
 * A version of `callee` that returns its results, then per result its partial derivatives by the
 * active parameters.
 */
function partialsOf(b: Builder, callee: Func, active: readonly number[]): Func {
  const key = active.join(',');
  const known = callee.partials.get(key);
  if (known) return known;
  const types = callee.body.parameters.map((parameter): LaneType => parameter.type);
  const made = b.define(`${callee.name}_d${key.replaceAll(',', '_')}`, types, (parameters) => {
    const forward = new Forward(b, active.length);
    callee.body.parameters.forEach((parameter, k) => {
      forward.seed(
        parameter,
        active.map((j) => (j === k ? b.f(1) : null)),
        present(parameters[k], 'parameter'),
      );
    });
    for (const value of callee.body.values) forward.visit(value, true);
    const partials = callee.body.results.flatMap((result) =>
      result.type === 'f32' ? forward.of(result).map((t) => t ?? b.f(0)) : active.map(() => b.f(0)),
    );
    return [...callee.body.results.map((result) => forward.at(result)), ...partials];
  });
  callee.partials.set(key, made);
  return made;
}

/** All values `target` depends on that stand in its own block or an enclosing one, in order. */
function dependencies(target: Value): Value[] {
  const enclosing = new Set<Block>();
  for (let block: Block | null = target.block; block; block = block.parent) enclosing.add(block);
  const seen = new Set<Value>();
  const pending: Value[] = [target];
  const needed: Value[] = [];
  for (let value = pending.pop(); value; value = pending.pop()) {
    if (seen.has(value)) continue;
    seen.add(value);
    if (enclosing.has(value.block)) needed.push(value);
    pending.push(...value.args);
    if (value.body) pending.push(...value.body.values, ...value.body.results);
  }
  return needed.sort((p, q) => p.id - q.id);
}

/**
 * The gradient of a scalar with respect to the object-space position. Position inputs (`position.x`
 * …) have unit tangents; any other per-point input `name` brings its own slope in the inputs
 * `name.dx`, `name.dy`, `name.dz`.
 */
export function gradient(b: Builder, target: F32): Lanes3 {
  const forward = new Forward(b, 3);
  for (const value of dependencies(target)) {
    if (value.operation === 'input') forward.seed(value, inputTangents(b, value));
    else forward.visit(value, false);
  }
  const result = forward.of(target).map((t) => t ?? b.f(0));
  assert(result.length === 3, 'a gradient has three components');
  return result as unknown as Lanes3;
}

const STILL: ReadonlySet<string> = new Set([
  'part.id',
  'part.centre',
  'faceNormal',
  'view',
  'footprint',
]);

function inputTangents(b: Builder, value: Value): Tangents {
  const name = b.inputName(value);
  const lane = parseLaneName(name);
  if (lane.of === 'position' && !lane.slope)
    return AXES.map((axis) => (axis === lane.component ? b.f(1) : null));
  // What is the same all over a part or a triangle does not change along it; how it is looked at
  // does so too slowly to count.
  if (lane.slope || STILL.has(lane.of)) return [null, null, null];
  return AXES.map((axis) => b.input(slopeLane(name, axis)));
}
