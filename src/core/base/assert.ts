/** Throws when one of our own invariants is broken; never used for what a user may do wrong. */
export function assert(condition: unknown, message: string): asserts condition {
  if (!condition) throw new Error(`Invariant broken: ${message}`);
}

/** Marks a switch as exhaustive. */
export function assertNever(value: never): never {
  throw new Error(`Invariant broken: unexpected case ${JSON.stringify(value)}`);
}

/** Returns the value, or throws when it is absent although our own code promised it. */
export function present<T>(value: T | undefined | null, message: string): T {
  if (value === undefined || value === null) throw new Error(`Invariant broken: ${message}`);
  return value;
}
