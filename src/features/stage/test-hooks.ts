import type { Evaluation } from '@/state/evaluation';
import type { Stores } from '@/state/stores';
import type { RemoteStage } from './remote-stage';

/** What tests and benchmarks read of the page. */
type TestHooks = Pick<Window, 'brightLoomStage' | 'brightLoomEvaluation' | 'brightLoomStores'>;
declare global {
  interface Window {
    brightLoomStage?: RemoteStage;
    brightLoomEvaluation?: Evaluation;
    brightLoomStores?: Stores;
  }
}

/** Lets tests and benchmarks read something, in a build that was made for them. */
export function openTestHooks(hooks: TestHooks): void {
  if (process.env.NEXT_PUBLIC_TEST_HOOKS === 'yes') Object.assign(window, hooks);
}
