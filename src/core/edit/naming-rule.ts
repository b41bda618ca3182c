/** How things that others use are to be named. */
export interface NamingRule {
  /** Characters at most. */
  readonly longest: number;
  /** A regular expression that a name matches. */
  readonly pattern: string;
  /** What the pattern asks for, in words. */
  readonly words: string;
}

/** What a studio chooses of its rule; no pattern is typed, so none can take for ever. */
export interface NamingChoices {
  /** Characters at most. */
  readonly longest: number;
  /** Whether a name begins with a capital (or a digit). */
  readonly capital: boolean;
  readonly spaces: boolean;
  readonly underscores: boolean;
  readonly digits: boolean;
  /** What every name begins with; may be empty. */
  readonly prefix: string;
}

/** Least and most that the longest name may be limited to. */
export const NAME_LIMITS = [4, 80] as const;

/** The choices of a studio that has made none: plain words, as people say them. */
export const PLAIN_CHOICES: NamingChoices = {
  longest: 32,
  capital: true,
  spaces: true,
  underscores: false,
  digits: true,
  prefix: '',
};

/** What has a meaning in a pattern; in one of Unicode nothing else may be escaped. */
const SYNTAX = /[\^$\\.*+?()[\]{}|/]/g;

/** The rule that choices make. */
export function namingRule(choices: NamingChoices): NamingRule {
  const { longest, capital, spaces, underscores, digits, prefix } = choices;
  const digit = digits ? '\\d' : '';
  const first = capital ? `[\\p{Lu}${digit}]` : `[\\p{L}${digit}]`;
  const rest = `[\\p{L}${digit}${spaces ? ' ' : ''}’'(),.${underscores ? '_' : ''}–-]*`;
  return {
    longest,
    pattern: `^${prefix.replace(SYNTAX, '\\$&')}${first}${rest}$`,
    words:
      `${prefix ? `“${prefix}” in front, then ` : ''}${capital ? 'a capital first, then ' : ''}` +
      `words ${spaces ? 'with' : 'without'} spaces, ` +
      `${underscores ? 'underscores allowed' : 'no underscores'}${digits ? '' : ', no digits'}`,
  };
}

/** The rule of a studio that has set none of its own. */
export const PLAIN_NAMES: NamingRule = namingRule(PLAIN_CHOICES);

/** What is wrong with a name, in words; null where it keeps the rule. */
export function nameFault(name: string, { longest, pattern, words }: NamingRule): string | null {
  if (name.length > longest) return `has more than ${String(longest)} characters`;
  return new RegExp(pattern, 'u').test(name) ? null : `does not keep the naming rule (${words})`;
}
