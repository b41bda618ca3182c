'use client';
import { listLights } from '@/core/compile/lights';
import { DEFAULT_SURROUNDINGS } from '@/core/graph/document';
import { commit } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { useDocument, useMeasuring, useResults, useStage, useView } from '@/state/use-stores';
import { StageProblem } from './StageProblem';

interface Props {
  readonly evaluation: Evaluation;
  readonly failure: string | null;
}

/** What stands over the stage: what is measured, and what is still computed. */
export function StageNotes({ evaluation, failure }: Props) {
  const problem = useResults((state) => state.problem);
  return (
    <>
      <MeasuringNote evaluation={evaluation} />
      {failure === null && problem === null ? <AgeNote /> : null}
    </>
  );
}

/** What went wrong, and why everything is black where no light is on. */
export function StageWarnings({ failure }: Pick<Props, 'failure'>) {
  const problem = useResults((state) => state.problem);
  return (
    <>
      <DarkNote />
      {failure ? (
        <div
          role="alert"
          className="rounded-[2px] border border-madder bg-panel p-2 text-[12px]"
          data-testid="stage-failure"
        >
          {failure}
        </div>
      ) : null}
      {problem ? <StageProblem problem={problem} /> : null}
    </>
  );
}

function MeasuringNote({ evaluation }: Pick<Props, 'evaluation'>) {
  const progress = useMeasuring((state) => state.progress);
  const isStopped = useMeasuring((state) => state.isMeasuringStopped);
  if (progress)
    return (
      <div className="absolute inset-x-2 bottom-14" role="status" data-testid="progress">
        <div className="flex items-center gap-2 text-[11px] text-ink">
          {progress.label}{' '}
          <button
            type="button"
            className="underline"
            onClick={() => {
              evaluation.models.stop();
            }}
          >
            Stop
          </button>
        </div>
        <div className="h-[3px] bg-line">
          <div
            className="h-full bg-ink"
            style={{ width: `${String(Math.round(progress.share * 100))}%` }}
          />
        </div>
      </div>
    );
  if (!isStopped) return null;
  return (
    <div
      className="absolute bottom-14 left-2 text-[11px]"
      role="status"
      data-testid="measuring-stopped"
    >
      Measuring was stopped: masks show their first look, or stay hatched.{' '}
      <button
        type="button"
        className="underline"
        onClick={() => {
          evaluation.models.resume();
        }}
      >
        Go on
      </button>
    </div>
  );
}

/** Nothing is lit: a black model is no fault of the material. */
function DarkNote() {
  const isDark = useDocument(
    ({ document }) =>
      listLights(document).every(({ intensity }) => intensity === 0) &&
      (document.surroundings ?? DEFAULT_SURROUNDINGS).strength === 0,
  );
  const isPinned = useView((state) => state.pin !== null);
  if (!isDark || isPinned) return null;
  return (
    <p
      role="status"
      data-testid="dark"
      className="w-fit rounded-[2px] border border-line bg-panel px-2 py-1 text-[12px]"
    >
      No light is on and the surroundings are dark: everything is black.{' '}
      <button
        type="button"
        className="underline"
        onClick={() => {
          commit(
            'Lit the stage again',
            ({ lights: _lights, surroundings: _surroundings, ...document }) => document,
          );
        }}
      >
        Take the lights a new material has
      </button>
    </p>
  );
}

/**
 * What is drawn is not the material as it is now: hatched as long as nothing was drawn of it, else
 * marked, and after a second with how long it takes.
 */
function AgeNote() {
  const hasDrawn = useStage((state) => state.hasDrawn);
  const age = useStage((state) => state.pictureAge);
  const seconds = useStage((state) => state.pictureSeconds);
  if (hasDrawn && age === 'current') return null;
  const words = hasDrawn
    ? 'The picture is older than the material'
    : 'The first picture is not complete';
  return (
    <div
      role="status"
      className="absolute bottom-8 left-2 text-[12px]"
      data-testid={hasDrawn ? 'older-picture' : 'first-surface'}
    >
      <span className="older-mark mr-1.5 inline-block h-[9px] w-[18px]" aria-hidden />
      <span className="scaled">
        {words}; it is being computed{age === 'late' ? `, ${String(seconds)} s` : ''} …
      </span>
    </div>
  );
}
