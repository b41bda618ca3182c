'use client';
import type { MouseEvent } from 'react';
import { rayAt, squareCamera } from '@/core/evaluate/camera';
import type { OutputView } from '@/core/compile/catalogue';
import type { NodeInstance } from '@/core/graph/document';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { Distribution } from './Distribution';
import { keyOnBoard, togglePin } from '@/state/editing';
import { explainMore } from '@/state/explaining';
import { stores } from '@/state/stores';
import { useResults, useView } from '@/state/use-stores';

interface Props {
  readonly node: NodeInstance;
  readonly outputs: readonly OutputView[];
}

/** Alt and a click: what makes the point of the model that is seen there. */
function explainPlace({ altKey, clientX, clientY, target }: MouseEvent<HTMLElement>): void {
  const { camera } = stores.view.getState();
  if (!altKey || !camera || !(target instanceof HTMLCanvasElement)) return;
  const { left, top, width, height } = target.getBoundingClientRect();
  const [across, down] = [(clientX - left) / width, (clientY - top) / height];
  explainMore(rayAt(squareCamera(camera), across, down));
}

/** The chosen node's output on the model, its outputs to pin, and how its values lie. */
export function BenchPicture({ node, outputs }: Props) {
  const path = useView((state) => state.path);
  const pin = useView((state) => state.pin);
  // What is pinned is what is asked about; else what the card shows.
  const chosen = outputs.find(({ id }) => keyOnBoard(path, node.id, id) === pin) ?? outputs[0];
  const tap = useResults((state) =>
    chosen ? state.taps.get(keyOnBoard(path, node.id, chosen.id)) : undefined,
  );
  return (
    <div className="w-[150px] shrink-0">
      {tap ? (
        <span title="Alt-click tells what makes a point" className="block" onClick={explainPlace}>
          <PictureCanvas
            picture={tap.picture}
            label={`${chosen?.title ?? 'Output'} of ${node.name ?? node.type}`}
            className="h-[112px] w-[112px] bg-stage"
          />
        </span>
      ) : null}
      <div className="mt-1 flex flex-wrap gap-1">
        {outputs.map((output) => {
          const key = keyOnBoard(path, node.id, output.id);
          return (
            <button
              key={output.id}
              type="button"
              aria-pressed={pin === key}
              className={
                'press rounded-[2px] border px-1 text-[11px] ' +
                (pin === key ? 'border-weld bg-weld text-weld-ink' : 'border-line')
              }
              onClick={() => {
                togglePin(key);
              }}
            >
              {output.title}
            </button>
          );
        })}
      </div>
      {tap?.isKnown === false ? (
        <p className="mt-1 text-[11px] text-soft">
          Not known yet: what it depends on is being measured or fetched.
        </p>
      ) : null}
      {tap?.statistics ? (
        <Distribution statistics={tap.statistics} histogram={tap.histogram} />
      ) : null}
    </div>
  );
}
