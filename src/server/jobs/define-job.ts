import type { Form } from '@/contract/forms';

/** What a running job is given beside its request. */
export interface JobContext {
  /** Who asked for it; null for what the studio does by itself. */
  readonly userId: string | null;
  /** Tells how far it is, from 0 to 1, and what is being done. */
  readonly report: (progress: number, step: string) => Promise<void>;
}

/** Prompt jobs are waited for by somebody; long ones must not hold them up. */
export const LANES = ['prompt', 'long'] as const;
export type Lane = (typeof LANES)[number];

export interface JobKind<R> {
  readonly kind: string;
  readonly lane: Lane;
  /** Of jobs that wait in a lane, those of the highest go first; 0 unless said. */
  readonly priority?: number;
  /** How often it is begun in all when something unforeseen ends it. */
  readonly tries: number;
  /** After so long it is ended and has failed. */
  readonly timeoutSeconds: number;
  /** The form of its request. */
  readonly form: Form<R>;
  /**
   * Does it. Doing it twice must change nothing. An AppError refuses it for good, with its reason;
   * anything else is tried again.
   */
  readonly run: (request: R, context: JobContext) => Promise<Readonly<Record<string, unknown>>>;
}

/** States a kind of job. */
export const defineJob = <R>(kind: JobKind<R>): JobKind<R> => kind;
