import type { Block, Func, Program, Value } from './types';

/**
 * The outputs of a program, by their places, that may depend on some of what it reads. A loop or a
 * call counts as depending on all that goes into it: the answer may be too many, never too few.
 * @param isRead whether a value reads what is asked about
 */
export function findDependents(
  program: Program,
  isRead: (value: Value) => boolean,
): ReadonlySet<number> {
  const found = new Set<Value>();
  const functions = new Map<Func, boolean>();
  const inFunction = (func: Func): boolean => {
    const known = functions.get(func);
    if (known !== undefined) return known;
    functions.set(func, false);
    const reads = visit(func.body);
    functions.set(func, reads);
    return reads;
  };
  /** @returns whether anything in the block depends on it */
  const visit = (block: Block): boolean => {
    let any = false;
    for (const value of block.values) {
      const depends =
        isRead(value) ||
        value.args.some((arg) => found.has(arg)) ||
        (value.body !== undefined && visit(value.body)) ||
        (value.callee !== undefined && inFunction(value.callee));
      if (depends) found.add(value);
      any ||= depends;
    }
    return any;
  };
  visit(program.prologue);
  visit(program.body);
  return new Set(program.outputs.flatMap(({ value }, k) => (found.has(value) ? [k] : [])));
}
