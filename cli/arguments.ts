/** A mistake in how the program was called; exit code 2. */
export class UsageError extends Error {}

export interface Arguments {
  readonly positionals: readonly string[];
  readonly values: Readonly<Record<string, string | boolean | undefined>>;
}
