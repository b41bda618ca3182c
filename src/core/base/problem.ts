import { AppError, errorMessage } from './diagnostic';
import type { Diagnostic } from './diagnostic';

/** What a person reads when anything went wrong. */
export interface Problem {
  readonly code: string;
  /** What happened. */
  readonly message: string;
  /** What was kept, or that nothing was changed; may be empty. */
  readonly kept: string;
  /** What to do; may be empty. */
  readonly action: string;
  /** What is wrong with a document, where that is the reason. */
  readonly findings?: readonly Diagnostic[];
}

const REPORT = 'Try again; if it happens again, report it with what you did before.';

/** Puts anything thrown into words. The one place where errors become text. */
export function describeError(error: unknown): Problem {
  if (error instanceof AppError) {
    const { code, message, kept, action, findings } = error;
    const problem = { code, message, kept, action };
    return findings.length > 0 ? { ...problem, findings } : problem;
  }
  return { code: 'unexpected', message: errorMessage(error), kept: '', action: REPORT };
}

/** A problem in one line of text. */
export const problemText = ({ message, kept, action }: Problem): string =>
  [message, kept, action].filter(Boolean).join(' ');
