/** How things that others use are to be named. */
export interface NamingRule {
  /** Characters at most. */
  readonly longest: number;
  /** A regular expression that a name matches. */
  readonly pattern: string;
  /** What the pattern asks for, in words. */
  readonly words: string;
}

/** The rule of a studio that has set none of its own: plain words, as people say them. */
export const PLAIN_NAMES: NamingRule = {
  longest: 32,
  pattern: "^[\\p{Lu}\\d][\\p{L}\\d ’'(),.–-]*$",
  words: 'a capital first, then words with spaces, no underscores',
};

/** What is wrong with a name, in words; null where it keeps the rule. */
export function nameFault(name: string, { longest, pattern, words }: NamingRule): string | null {
  if (name.length > longest) return `has more than ${String(longest)} characters`;
  return new RegExp(pattern, 'u').test(name) ? null : `does not keep the naming rule (${words})`;
}
