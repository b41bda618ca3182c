/** One choice of an option. */
export interface Choice {
  readonly value: string;
  readonly title: string;
  readonly help: string;
}
/** A mode that changes what is computed; changing it recompiles. */
export interface OptionDefinition<V extends string = string> {
  readonly title: string;
  readonly help: string;
  readonly default: V;
  readonly choices: readonly (Choice & { readonly value: V })[];
  /** What of the model at hand may be chosen besides, by its name. */
  readonly open?: OpenKind;
}
/** What of a model an option's choices may be: names that only the model at hand knows. */
export type OpenKind = 'attributes' | 'parts' | 'sets';
/**
 * An option whose choices are names the model at hand brings; the empty one, or those given, always
 * stand.
 */
export function openOption(
  title: string,
  help: string,
  open: OpenKind,
  none: readonly [string, string],
  more: Readonly<Record<string, readonly [string, string]>> = {},
): OptionDefinition {
  return {
    title,
    help,
    open,
    default: '',
    choices: Object.entries({ '': none, ...more }).map(([value, [name, meaning]]) => ({
      value,
      title: name,
      help: meaning,
    })),
  };
}
/** An option with its choices as `value: [title, help]`; the first is the default. */
export function option<V extends string>(
  title: string,
  help: string,
  choices: Record<V, readonly [string, string]>,
): OptionDefinition<V> {
  const list = (Object.entries(choices) as [V, readonly [string, string]][]).map(
    ([value, [name, meaning]]) => ({ value, title: name, help: meaning }),
  );
  // JavaScript puts keys that are whole numbers before all others, whatever order they were written
  // in.
  if (
    Object.keys(choices).some((value) => /^\d+$/.test(value)) &&
    Object.keys(choices).some((value) => !/^\d+$/.test(value))
  )
    throw new Error(`Invariant broken: option ${title} mixes numbers and names`);
  const [first] = list;
  if (!first) throw new Error(`Invariant broken: option ${title} has no choice`);
  return { title, help, default: first.value, choices: list };
}

/** The options of a node, by their ids. */
export type Options = Record<string, OptionDefinition>;
/** What is chosen of a node's options. */
export type ChosenOptions<P extends Options> = {
  readonly [N in keyof P]: P[N] extends OptionDefinition<infer V> ? V : never;
};
