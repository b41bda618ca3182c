'use client';
import { Frame } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { beaconsOf } from '@/core/edit/beacons';
import type { BeaconInput } from '@/core/edit/beacons';
import type { ModelEntry } from '@/contract/models';
import type { Evaluation } from '@/state/evaluation';
import { Button } from '@/ui/Button';
import { BeaconTools } from './BeaconTools';
import { CompanionsPanel } from './CompanionsPanel';
import { LookChoice } from './LookChoice';
import { LightsPanel } from './LightsPanel';
import { OpacityChoice } from './OpacityChoice';
import { StageProblem } from './StageProblem';
import { PickPrompt } from './PickPrompt';
import { openTestHooks } from './test-hooks';
import { keepStage } from './keep-stage';
import type { RemoteStage } from './remote-stage';
import { togglePin } from '@/state/editing';
import { boardAt } from '@/state/board-path';
import { useDocument, useMeasuring, useResults, useStage, useView } from '@/state/use-stores';
import { stores } from '@/state/stores';

/** The 3D view: the model with the finished surface, or with a pinned value shown flat. */
export function Stage({
  evaluation,
  models,
}: {
  readonly evaluation: Evaluation;
  readonly models: readonly ModelEntry[];
}) {
  const host = useRef<HTMLDivElement>(null);
  const renderer = useRef<RemoteStage | null>(null);
  const pin = useView((state) => state.pin);
  const progress = useMeasuring((state) => state.progress);
  const isMeasuringStopped = useMeasuring((state) => state.isMeasuringStopped);
  const problem = useResults((state) => state.problem);
  const isPicking = useView((state) => state.picking !== null);
  const { beacons, chosen } = useBeacons();
  const [mode, setMode] = useState<BeaconInput>('place');
  const [stage, setStage] = useState<RemoteStage | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    stage?.setBeacons(beacons, chosen, mode);
  }, [stage, beacons, chosen, mode]);
  useEffect(() => {
    if (!host.current) return;
    openTestHooks({ brightLoomEvaluation: evaluation, brightLoomStores: stores });
    const asked = new URLSearchParams(window.location.search).get('stage');
    return keepStage(
      host.current,
      evaluation,
      asked === 'program' || asked === 'workers' ? asked : null,
      {
        onStage: (made) => {
          renderer.current = made;
          setStage(made);
          if (made) openTestHooks({ brightLoomStage: made });
        },
        onFailure: setFailure,
      },
    );
  }, [evaluation]);
  const turn = (event: React.KeyboardEvent): void => {
    const steps: Record<string, readonly [number, number]> = {
      ArrowLeft: [-0.12, 0],
      ArrowRight: [0.12, 0],
      ArrowUp: [0, -0.12],
      ArrowDown: [0, 0.12],
    };
    const step = steps[event.key];
    if (step) {
      renderer.current?.orbit(...step);
      event.preventDefault();
    } else if (event.key.toLowerCase() === 'f' && !event.ctrlKey) renderer.current?.frameModel();
    else return;
    event.stopPropagation();
  };
  return (
    <div className="relative h-full w-full bg-stage" data-testid="stage" data-pin={pin ?? ''}>
      <div
        ref={host}
        className={`absolute inset-0 ${isPicking ? 'cursor-crosshair' : ''}`}
        onKeyDown={turn}
      />
      {pin ? (
        <div
          className={
            'absolute top-2 left-2 flex items-center gap-2 rounded-[2px] bg-weld px-2 py-1 ' +
            'text-[12px] text-weld-ink'
          }
          data-testid="pinned"
        >
          Pinned, shown flat: {pin}{' '}
          <button
            type="button"
            className="underline"
            onClick={() => {
              togglePin(pin);
            }}
          >
            back to the surface
          </button>
        </div>
      ) : null}
      {progress ? (
        <div className="absolute inset-x-2 bottom-2" role="status" data-testid="progress">
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
      ) : null}
      {isMeasuringStopped && !progress ? (
        <div
          className="absolute bottom-2 left-2 text-[11px]"
          role="status"
          data-testid="measuring-stopped"
        >
          Measuring was stopped: masks show their first look.{' '}
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
      ) : null}
      {failure ? (
        <div
          role="alert"
          className={
            'absolute inset-x-2 top-20 rounded-[2px] border border-madder bg-panel p-2 ' +
            'text-[12px]'
          }
          data-testid="stage-failure"
        >
          {failure}
        </div>
      ) : null}
      {problem ? <StageProblem problem={problem} /> : null}
      {pin === null ? <OpacityChoice /> : null}
      <div className="absolute top-1 right-1 flex flex-col items-end gap-1 text-[11px]">
        <LookChoice />
        {beacons.length > 0 ? (
          <BeaconTools
            beacons={beacons}
            chosen={chosen}
            mode={mode}
            onMode={setMode}
            onFind={({ place, extent }) => {
              renderer.current?.lookAt(place, Math.max(...extent));
            }}
          />
        ) : null}
      </div>
      <PickPrompt evaluation={evaluation} host={host} renderer={renderer} />
      <span className="absolute right-1 bottom-1 flex">
        <Button
          look="quiet"
          aria-label="Frame the model"
          onClick={() => {
            renderer.current?.frameModel();
          }}
        >
          <Frame size={14} />
        </Button>
        <LightsPanel />
        <CompanionsPanel models={models} />
      </span>
    </div>
  );
}

/** The beacons of the board shown, as they stand on the model, and the one that is selected. */
function useBeacons(): {
  readonly beacons: ReturnType<typeof beaconsOf>;
  readonly chosen: string | null;
} {
  const document = useDocument((state) => state.document);
  const path = useView((state) => state.path);
  const model = useStage((state) => state.model);
  const selection = useView((state) => state.selection);
  const beacons = useMemo(
    () => (model ? beaconsOf(document, boardAt(document, path), model.scale) : []),
    [document, path, model],
  );
  return {
    beacons,
    chosen:
      beacons.find((beacon) => selection.length === 1 && beacon.id === selection[0])?.id ?? null,
  };
}
