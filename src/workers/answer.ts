import { AppError } from '../core/base/diagnostic';
import { describeError } from '../core/base/problem';
import type { Problem } from '../core/base/problem';

/** What went wrong in a worker, as data: errors thrown across threads lose their kind. */
export interface WorkerFailure extends Problem {
  readonly failed: true;
}
export type Answer<T> = T | WorkerFailure;

/** What a worker reported, thrown again on the side that asked. */
export class WorkerProblem extends AppError {
  constructor({ code, message, kept, action, findings }: Problem) {
    super(code, message, action, { kept, ...(findings ? { findings } : {}) });
    this.name = 'WorkerProblem';
  }
}
/** What calls to a worker that ended fail with. */
const LOST = 'worker.lost';
export const isLost = (error: unknown): boolean =>
  error instanceof WorkerProblem && error.code === LOST;
export const lostWorker = (): WorkerProblem =>
  new WorkerProblem({
    code: LOST,
    message: 'A worker of the browser ended.',
    kept: 'It was restarted; your work is kept.',
    action: '',
  });

/** Runs work and turns anything thrown into data. */
export async function attempt<T>(work: () => T | Promise<T>): Promise<Answer<T>> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof AppError) return { failed: true, ...describeError(error) };
    const kept = 'Your work is kept.';
    const action = 'Undo the last step or reload the page.';
    return { failed: true, ...describeError(error), code: 'worker.failed', kept, action };
  }
}

const isFailure = (answer: unknown): answer is WorkerFailure =>
  typeof answer === 'object' && answer !== null && 'failed' in answer;

/** The value of an answer; throws what a worker reported. */
export async function unwrap<T>(answer: Promise<Answer<T>>): Promise<T> {
  const value = await answer;
  if (isFailure(value)) throw new WorkerProblem(value);
  return value;
}
