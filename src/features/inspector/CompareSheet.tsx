'use client';
import { useEffect, useRef, useState } from 'react';
import type { NodeInstance } from '@/core/graph/document';
import { squareCamera } from '@/core/evaluate/camera';
import { percent } from '@/core/nodes/advice';
import type { Evaluation } from '@/state/evaluation';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import { unwrap } from '@/workers/answer';
import type { TapResult } from '@/core/evaluate/tap-results';
import { keyOnBoard } from '@/state/editing';
import { boardAt } from '@/core/edit/board';
import { stores } from '@/state/stores';
import type { Trial, Trials } from './trials';

type Picture = TapResult['picture'];
interface Props {
  readonly node: NodeInstance;
  readonly compared: Trials;
  readonly output: string;
  readonly evaluation: Evaluation;
  readonly onChoose: (trial: Trial) => void;
  readonly onClose: () => void;
}
const SIDE = 168;

/** The node's output for each trial, with everything else as it is; a picture chooses. */
export function CompareSheet({ node, compared, output, evaluation, onChoose, onClose }: Props) {
  const { title, trials } = compared;
  const { pictures, problem } = usePictures(node.id, trials, output, evaluation);
  const now = trials.find(({ isNow }) => isNow)?.key ?? '';
  return (
    <Sheet
      open
      onClose={onClose}
      width={580}
      title={title}
      description="Everything else as it is now. Click one to take it."
    >
      {problem ? <ProblemNote problem={problem} className="mb-2" /> : null}
      <ul className="grid grid-cols-3 gap-2" data-testid="compare">
        {trials.map((trial) => (
          <li key={trial.key}>
            <button
              type="button"
              aria-pressed={trial.isNow}
              title={trial.help}
              onClick={() => {
                onChoose(trial);
              }}
              className={
                'w-full border p-1 text-left ' +
                (trial.isNow ? 'border-weld' : 'border-line hover:border-seam')
              }
            >
              <span className="block bg-stage" style={{ height: SIDE }}>
                {pictures.has(trial.key) ? (
                  <PictureCanvas
                    picture={pictures.get(trial.key)}
                    label={trial.title}
                    className="mx-auto h-[168px] w-[168px]"
                  />
                ) : null}
              </span>
              <span className="block text-[12px] font-semibold">{trial.title}</span>
              <span className="block text-[11px] text-soft">{trial.help}</span>
              <span className="figures block text-[11px]">
                {trial.isNow
                  ? 'as it is'
                  : differenceText(pictures.get(now), pictures.get(trial.key))}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

/** A picture for each trial, as they come. */
function usePictures(
  node: string,
  trials: readonly Trial[],
  output: string,
  evaluation: Evaluation,
) {
  const [pictures, setPictures] = useState<ReadonlyMap<string, Picture>>(new Map());
  const [problem, setProblem] = useState<Problem | null>(null);
  const latest = useRef(trials);
  useEffect(() => {
    latest.current = trials;
  });
  const keys = trials.map(({ key }) => key).join('\n');
  useEffect(() => {
    let stopped = false;
    const { document, modelId } = stores.document.getState(),
      { path, camera } = stores.view.getState();
    const board = boardAt(document, path);
    const work = async (): Promise<void> => {
      for (const { key, set, shows = { node, output } } of latest.current) {
        if (stopped || !camera) return;
        const picture = await unwrap(
          evaluation.pool.evaluator.picture(
            modelId,
            set(document, board),
            keyOnBoard(path, shows.node, shows.output),
            squareCamera(camera),
            SIDE,
          ),
        );
        setPictures((known) => new Map([...known, [key, picture]]));
      }
    };
    work().catch((error: unknown) => {
      setProblem(describeError(error));
    });
    return () => {
      stopped = true;
    };
  }, [keys, evaluation, node, output]);
  return { pictures, problem };
}

/** How much of a picture is other than in another: the mean difference of what is covered. */
function differenceText(a: Picture | undefined, b: Picture | undefined): string {
  if (!a || !b) return '';
  let [sum, count] = [0, 0];
  for (let k = 0; k < a.pixels.length; k += 4) {
    if (a.pixels[k + 3] === 0) continue;
    for (let c = 0; c < 3; c++) sum += Math.abs((a.pixels[k + c] ?? 0) - (b.pixels[k + c] ?? 0));
    count += 3;
  }
  const share = count === 0 ? 0 : sum / count / 255;
  return share === 0 ? 'no difference here' : `differs by ${percent(share)}`;
}
