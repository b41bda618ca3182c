'use client';
import { own } from '@/core/base/own';
import { useEffect, useState } from 'react';
import { setOption } from '@/core/edit/nodes';
import type { NodeInstance } from '@/core/graph/document';
import { percent } from '@/core/nodes/advice';
import type { OptionDefinition } from '@/core/nodes/define';
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

type Picture = TapResult['picture'];
interface Props {
  readonly node: NodeInstance;
  readonly option: string;
  readonly definition: OptionDefinition;
  readonly output: string;
  readonly evaluation: Evaluation;
  readonly onChoose: (choice: string) => void;
  readonly onClose: () => void;
}
const SIDE = 168;

/**
 * The node's output for every choice of an option, with everything else as it is; a picture
 * chooses.
 */
export function CompareSheet({
  node,
  option,
  definition,
  output,
  evaluation,
  onChoose,
  onClose,
}: Props) {
  const { pictures, problem } = useChoicePictures({ node, option, definition, output, evaluation });
  const chosen = own(node.options, option) ?? definition.default;
  return (
    <Sheet
      open
      onClose={onClose}
      width={580}
      title={`${definition.title}: every choice`}
      description="Everything else as it is now. Click one to take it."
    >
      {problem ? <ProblemNote problem={problem} className="mb-2" /> : null}
      <ul className="grid grid-cols-3 gap-2" data-testid="compare">
        {definition.choices.map(({ value, title, help }) => (
          <li key={value}>
            <button
              type="button"
              aria-pressed={value === chosen}
              title={help}
              onClick={() => {
                onChoose(value);
              }}
              className={
                'w-full border p-1 text-left ' +
                (value === chosen ? 'border-weld' : 'border-line hover:border-seam')
              }
            >
              <span className="block bg-stage" style={{ height: SIDE }}>
                {pictures.has(value) ? (
                  <PictureCanvas
                    picture={pictures.get(value)}
                    label={title}
                    className="mx-auto h-[168px] w-[168px]"
                  />
                ) : null}
              </span>
              <span className="block text-[12px] font-semibold">{title}</span>
              <span className="block text-[11px] text-soft">{help}</span>
              <span className="figures block text-[11px]">
                {value === chosen
                  ? 'as it is'
                  : differenceText(pictures.get(chosen), pictures.get(value))}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

/** A picture for each choice, as they come. */
function useChoicePictures({
  node,
  option,
  definition,
  output,
  evaluation,
}: Pick<Props, 'node' | 'option' | 'definition' | 'output' | 'evaluation'>) {
  const [pictures, setPictures] = useState<ReadonlyMap<string, Picture>>(new Map());
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    let stopped = false;
    const { document, modelId } = stores.document.getState(),
      { path, camera } = stores.view.getState();
    const work = async (): Promise<void> => {
      for (const { value } of definition.choices) {
        if (stopped || !camera) return;
        const trial = setOption(document, boardAt(document, path), node.id, option, value);
        const picture = await unwrap(
          evaluation.pool.evaluator.picture(
            modelId,
            trial,
            keyOnBoard(path, node.id, output),
            { ...camera, aspect: 1 },
            SIDE,
          ),
        );
        setPictures((known) => new Map([...known, [value, picture]]));
      }
    };
    work().catch((error: unknown) => {
      setProblem(describeError(error));
    });
    return () => {
      stopped = true;
    };
  }, [definition, evaluation, node.id, option, output]);
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
