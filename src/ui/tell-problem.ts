import { toast } from 'sonner';
import { describeError } from '@/core/base/problem';

/** Long enough to read three sentences, milliseconds. */
const READING_TIME = 12_000;

/** Tells of an error in a corner of the window: what happened, what was kept, what to do. */
export function tellProblem(error: unknown): void {
  const { message, kept, action } = describeError(error);
  const description = [kept, action].filter(Boolean).join(' ');
  toast.error(message, { description: description || undefined, duration: READING_TIME });
}
