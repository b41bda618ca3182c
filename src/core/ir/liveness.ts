import type { Block, Func, Program, Value } from './types';

/** What a program really needs, and which values may be written in place of their only use. */
export interface Liveness {
  isLive(value: Value): boolean;
  /** Used once, in its own block, and cheap to write in place. */
  isInline(value: Value): boolean;
  readonly functions: readonly Func[];
}

const MAXIMUM_EXPRESSION_HEIGHT = 48;
const STRUCTURAL = new Set(['loop', 'loopResult', 'call', 'callResult', 'parameter']);

/** Dead-code analysis from the outputs backwards, through loops and called functions. */
export function analyseLiveness(program: Program): Liveness {
  const uses = new Map<Value, number>();
  const escaping = new Set<Value>();
  const functions = new Set<Func>();
  const pending: Value[] = [];
  const count = (value: Value, from: Block): void => {
    const before = uses.get(value) ?? 0;
    uses.set(value, before + 1);
    if (before === 0) pending.push(value);
    if (from !== value.block) escaping.add(value);
  };
  const open = (block: Block): void => {
    for (const result of block.results) count(result, block);
  };
  for (const output of program.outputs) count(output.value, program.body);
  for (let value = pending.pop(); value; value = pending.pop()) {
    for (const arg of value.args) count(arg, value.block);
    if (value.body) open(value.body);
    if (value.callee && !functions.has(value.callee)) {
      functions.add(value.callee);
      open(value.callee.body);
    }
  }
  const inline = inlineValues(uses, escaping);
  return {
    isLive: (value) => uses.has(value),
    isInline: (value) => inline.has(value),
    functions: program.functions.filter((func) => functions.has(func)),
  };
}

function inlineValues(uses: ReadonlyMap<Value, number>, escaping: ReadonlySet<Value>): Set<Value> {
  const inline = new Set<Value>();
  const height = new Map<Value, number>();
  for (const value of [...uses.keys()].sort((a, b) => a.id - b.id)) {
    const tallest =
      value.args.reduce(
        (max, arg) => Math.max(max, inline.has(arg) ? (height.get(arg) ?? 0) : 0),
        0,
      ) + 1;
    height.set(value, tallest);
    const once = uses.get(value) === 1 && !escaping.has(value) && !STRUCTURAL.has(value.operation);
    if (once && tallest < MAXIMUM_EXPRESSION_HEIGHT) inline.add(value);
  }
  return inline;
}
