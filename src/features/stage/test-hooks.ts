import type { Evaluation } from '@/state/evaluation';
import type { Stores } from '@/state/stores';
import type { RemoteStage } from './remote-stage';
import type { StageTrial, StageWishes } from './stage-events';

/** What tests and benchmarks read of the page. */
type TestHooks = Pick<Window, 'brightLoomStage' | 'brightLoomEvaluation' | 'brightLoomStores'>;
declare global {
  interface Window {
    brightLoomStage?: RemoteStage;
    brightLoomEvaluation?: Evaluation;
    brightLoomStores?: Stores;
    /** Set before the page runs: how its stage is tried. */
    brightLoomTrial?: StageTrial;
  }
}

/** Lets tests and benchmarks read something, in a build that was made for them. */
export function openTestHooks(hooks: TestHooks): void {
  if (process.env.NEXT_PUBLIC_TEST_HOOKS === 'yes') Object.assign(window, hooks);
}

/**
 * How the stage is to be opened, by the address of the page: `stage=program` or `workers`. In a
 * build for tests also what driver is imitated: `delay` in milliseconds, `refuse`, `targets`; the
 * rest of a trial is set on the window.
 */
export function stageWishes(search: string): StageWishes {
  const asked = new URLSearchParams(search);
  const stage = asked.get('stage');
  const mode = stage === 'program' || stage === 'workers' ? stage : null;
  if (process.env.NEXT_PUBLIC_TEST_HOOKS !== 'yes') return { mode, trial: null };
  const [delay, targets] = [asked.get('delay'), asked.get('targets')];
  return {
    mode,
    trial: {
      ...window.brightLoomTrial,
      isRefusing: asked.has('refuse'),
      ...(delay === null ? {} : { delayMs: Number(delay) }),
      ...(targets === null ? {} : { mostTargets: Number(targets) }),
    },
  };
}
