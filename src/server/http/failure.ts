import { AppError } from '@/core/base/diagnostic';
import { describeError } from '@/core/base/problem';
import type { Failure } from '@/contract/failure';
import { isBusy, isOutOfSpace, isUnreachable } from '@/db/client';
import { log, loggable } from '../log';

const BROWSER_KEEPS = 'Your work is kept in this browser and saved when it is back.';

/** What an error of the database means to a person; null for any other. */
export function databaseProblem(error: unknown): AppError | null {
  if (isOutOfSpace(error)) {
    return new AppError(
      'database.full',
      'The server’s disk is full.',
      'Ask whoever runs the server to make room.',
      {
        status: 507,
        kept: 'Nothing was saved, and nothing is lost: your work is kept in this browser.',
      },
    );
  }
  if (isBusy(error)) {
    return new AppError('database.busy', 'The server is busy.', 'Try again in a moment.', {
      status: 503,
      kept: BROWSER_KEEPS,
    });
  }
  if (isUnreachable(error)) {
    return new AppError(
      'database.unreachable',
      'The database cannot be reached at the moment.',
      'It is tried again by itself.',
      { status: 503, kept: BROWSER_KEEPS },
    );
  }
  return null;
}

/** Seconds after which a client may try again. */
const RETRY_AFTER = '2';

/** The one place where errors become answers. */
export function failureResponse(error: unknown): Response {
  const known = error instanceof AppError ? error : databaseProblem(error);
  if (!known) log().error(loggable(error), 'a request failed');
  else if (known.status >= 500) log().warn(loggable(error), known.code);
  const shown = known ?? unexpected();
  const failure: Failure = {
    ...describeError(shown),
    ...(shown.details === undefined ? {} : { details: shown.details }),
  };
  return Response.json(failure, { status: shown.status, headers: failureHeaders(shown) });
}

const unexpected = (): AppError =>
  new AppError(
    'server.failed',
    'The server could not do this.',
    'Try again; if it happens again, report it.',
    { status: 500, kept: 'Nothing was changed.' },
  );

function failureHeaders(error: AppError): Record<string, string> {
  const headers: Record<string, string> = { 'Cache-Control': 'no-store' };
  if (error.status === 503) headers['Retry-After'] = RETRY_AFTER;
  const { retryAfter } = (error.details ?? {}) as { retryAfter?: number };
  if (error.status === 429 && retryAfter !== undefined) headers['Retry-After'] = String(retryAfter);
  return headers;
}
