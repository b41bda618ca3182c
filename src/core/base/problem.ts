import { AppError, messageOf } from './diagnostic';

/** What a person is told of anything that went wrong. */
export interface Problem {
  readonly code: string;
  /** What happened. */
  readonly message: string;
  /** What was kept, or that nothing was changed; may be empty. */
  readonly kept: string;
  /** What to do; may be empty. */
  readonly action: string;
}

const REPORT = 'Try again; if it happens again, report it with what you did before.';

/** Puts anything thrown into words. The one place where errors become text. */
export function describeError(error: unknown): Problem {
  if (error instanceof AppError) {
    const { code, message, kept, action } = error;
    return { code, message, kept, action };
  }
  return { code: 'unexpected', message: messageOf(error), kept: '', action: REPORT };
}

/** A problem in one line of text. */
export const problemText = ({ message, kept, action }: Problem): string =>
  [message, kept, action].filter(Boolean).join(' ');
