import pino from 'pino';
import type { Logger } from 'pino';

/**
 * What is worth keeping of an error: kind, code and place. Messages of the database are left out of
 * anything but its code, as they hold the parameters of statements: session tokens, whole
 * documents.
 */
export function loggable(error: unknown): Readonly<Record<string, unknown>> {
  if (!(error instanceof Error)) return { thrown: typeof error };
  const { code, severity, table, constraint } = error as Error & Record<string, unknown>;
  const isStatement = 'query' in error || severity !== undefined;
  const frames = (error.stack ?? '').split('\n').filter((line) => /^\s+at /.test(line));
  return {
    error: error.name,
    ...(isStatement ? { statement: statementOf(error) } : { message: firstLine(error.message) }),
    ...(typeof code === 'string' ? { code } : {}),
    ...(typeof severity === 'string' ? { severity, table, constraint } : {}),
    at: frames.slice(0, 4).map((line) => line.trim()),
    ...(error.cause === undefined ? {} : { cause: loggable(error.cause) }),
  };
}

const firstLine = (text: string): string => (text.split('\n')[0] ?? '').slice(0, 400);
/** The statement with its placeholders, without what stood in their place. */
const statementOf = (error: Error): string | undefined => {
  const { query } = error as { query?: unknown };
  return typeof query === 'string' ? firstLine(query) : undefined;
};

const kept = globalThis as unknown as { brightLoomLog?: Logger };

/** One line of JSON an event, on standard output. */
export function log(): Logger {
  kept.brightLoomLog ??= pino({
    level: process.env['LOG_LEVEL'] ?? (process.env['NODE_ENV'] === 'test' ? 'silent' : 'info'),
    base: { part: process.env['BRIGHT_LOOM_PART'] ?? 'server' },
    timestamp: pino.stdTimeFunctions.isoTime,
  });
  return kept.brightLoomLog;
}

/**
 * Libraries write to the console what they make of errors, parameters and all: it becomes lines of
 * the log, cleaned.
 */
export function sendConsoleToLog(): void {
  const line =
    (level: 'info' | 'warn' | 'error') =>
    (...given: unknown[]): void => {
      const error = given.find((each) => each instanceof Error);
      const words = given.filter((each) => typeof each === 'string').map(firstLine);
      log()[level](error ? loggable(error) : {}, error ? 'console' : words.join(' '));
    };
  console.log = line('info');
  console.info = line('info');
  console.warn = line('warn');
  console.error = line('error');
}
