import { AppError, messageOf } from '../core/base/diagnostic';
import { CompileError } from '../core/compile/compile';

/** What went wrong in a worker, as data: errors thrown across threads lose their kind. */
export interface WorkerFailure { readonly failed: true; readonly code: string; readonly message: string; readonly action: string }
export type Answer<T> = T | WorkerFailure;

export class WorkerProblem extends Error {
  constructor(readonly code: string, message: string, readonly action: string) {
    super(message);
    this.name = 'WorkerProblem';
  }
}
/** What calls to a worker that ended fail with. */
const LOST = 'worker.lost';
export const isLost = (error: unknown): boolean => error instanceof WorkerProblem && error.code === LOST;
export const lostWorker = (): WorkerProblem => new WorkerProblem(LOST, 'A worker of the browser ended.', 'It was started again; your work is kept.');

/** Runs work and turns anything thrown into data. */
export async function attempt<T>(work: () => T | Promise<T>): Promise<Answer<T>> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof AppError || error instanceof WorkerProblem) return { failed: true, code: error.code, message: error.message, action: error.action };
    if (error instanceof CompileError) return { failed: true, code: error.diagnostics[0]?.code ?? 'compile.failed', message: error.message, action: 'The picture shows the last state that could be computed.' };
    return { failed: true, code: 'worker.failed', message: messageOf(error), action: 'Your work is kept. Undo the last step or reload the page.' };
  }
}

const isFailure = (answer: unknown): answer is WorkerFailure => typeof answer === 'object' && answer !== null && 'failed' in answer;

/** The value of an answer; throws what a worker reported. */
export async function settled<T>(answer: Promise<Answer<T>>): Promise<T> {
  const value = await answer;
  if (isFailure(value)) throw new WorkerProblem(value.code, value.message, value.action);
  return value;
}
