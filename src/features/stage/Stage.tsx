'use client';
import { useEffect, useRef, useState } from 'react';
import type { ModelEntry } from '@/contract/models';
import type { BeaconInput } from '@/core/edit/beacons';
import type { Evaluation } from '@/state/evaluation';
import { BACKDROPS, stores } from '@/state/stores';
import { useView } from '@/state/use-stores';
import { BeaconTools } from './BeaconTools';
import { CompanionsPanel } from './CompanionsPanel';
import { ExplainClicks } from './ExplainClicks';
import { FlatView } from './FlatView';
import { InfluenceOverlay } from './InfluenceOverlay';
import { KeptSight } from './KeptSight';
import { LevelLine } from './LevelLine';
import { LightsPanel } from './LightsPanel';
import { StretchNote } from './LookChoice';
import { OpacityChoice } from './OpacityChoice';
import { PickPrompt } from './PickPrompt';
import { PinNote } from './PinNote';
import { ReferenceLayer, ReferencesBeside } from './ReferenceLayer';
import { ReferencesPanel } from './ReferencesPanel';
import { SizeNote, StageBar } from './StageBar';
import { StageNotes, StageWarnings } from './StageNotes';
import { Strokes } from './Strokes';
import { superviseStage } from './supervise-stage';
import type { RemoteStage } from './remote-stage';
import { openTestHooks, stageWishes } from './test-hooks';
import { useBeacons } from './use-beacons';

interface Props {
  readonly evaluation: Evaluation;
  readonly models: readonly ModelEntry[];
}

/** The 3D view: the model with the finished surface, or with a pinned value shown flat. */
export function Stage({ evaluation, models }: Props) {
  const host = useRef<HTMLDivElement>(null);
  const pin = useView((state) => state.pin);
  const backdrop = useView((state) => state.backdrop);
  const isPicking = useView((state) => state.picking !== null || state.stroking !== null);
  const { renderer, stage, failure } = useDrawing(host, evaluation);
  return (
    <div className="flex h-full w-full flex-col">
      <div
        className="relative min-h-0 flex-1"
        style={{ background: BACKDROPS[backdrop] }}
        data-testid="stage"
        data-pin={pin ?? ''}
      >
        <ReferenceLayer isBehind />
        <div
          ref={host}
          className={`absolute inset-0 ${isPicking ? 'cursor-crosshair' : ''}`}
          onKeyDown={(event) => {
            turnByKey(event, renderer.current);
          }}
        />
        <ReferenceLayer isBehind={false} />
        <ReferencesBeside />
        <FlatView evaluation={evaluation} />
        <KeptSight />
        <LevelLine evaluation={evaluation} host={host} />
        <InfluenceOverlay evaluation={evaluation} />
        <StageNotes evaluation={evaluation} failure={failure} />
        {pin === null ? <OpacityChoice /> : null}
        <StageBar
          warnings={<StageWarnings failure={failure} />}
          onFrame={() => {
            renderer.current?.frameModel();
          }}
        >
          <PinNote />
          <>
            <StretchNote />
            <StageBeacons stage={stage} />
          </>
        </StageBar>
        <SizeNote />
        <ExplainClicks host={host} renderer={renderer} />
        <Strokes host={host} renderer={renderer} />
        <PickPrompt evaluation={evaluation} host={host} renderer={renderer} />
      </div>
      <LightsPanel />
      <CompanionsPanel models={models} />
      <ReferencesPanel />
    </div>
  );
}

/** Has a worker draw into the host as long as it is there; one that ends is opened again. */
function useDrawing(host: React.RefObject<HTMLDivElement | null>, evaluation: Evaluation) {
  const renderer = useRef<RemoteStage | null>(null);
  const [stage, setStage] = useState<RemoteStage | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    if (!host.current) return;
    openTestHooks({ brightLoomEvaluation: evaluation, brightLoomStores: stores });
    return superviseStage(host.current, evaluation, stageWishes(window.location.search), {
      onStage: (made) => {
        renderer.current = made;
        setStage(made);
        if (made) openTestHooks({ brightLoomStage: made });
      },
      onFailure: setFailure,
    });
  }, [host, evaluation]);
  const isPlacing = useView((state) => state.stagePanel === 'lights');
  useEffect(() => {
    stage?.placeLights(isPlacing);
  }, [stage, isPlacing]);
  const asked = useView((state) => state.askedCamera);
  useEffect(() => {
    if (asked) stage?.standAt([...asked.eye], [...asked.target]);
  }, [stage, asked]);
  return { renderer, stage, failure };
}

/** Radians by which one press turns the view: about the vertical, and over it. */
const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-0.12, 0],
  ArrowRight: [0.12, 0],
  ArrowUp: [0, -0.12],
  ArrowDown: [0, 0.12],
};

function turnByKey(event: React.KeyboardEvent, renderer: RemoteStage | null): void {
  const step = STEPS[event.key];
  if (step) {
    renderer?.orbit(...step);
    event.preventDefault();
  } else if (event.key.toLowerCase() === 'f' && !event.ctrlKey) renderer?.frameModel();
  else return;
  event.stopPropagation();
}

/** The handles of beacons on the stage, and the tools for them where there are any. */
function StageBeacons({ stage }: { readonly stage: RemoteStage | null }) {
  const { beacons, chosen } = useBeacons();
  const [mode, setMode] = useState<BeaconInput>('place');
  useEffect(() => {
    stage?.setBeacons(beacons, chosen, mode);
  }, [stage, beacons, chosen, mode]);
  if (beacons.length === 0) return null;
  return (
    <BeaconTools
      beacons={beacons}
      chosen={chosen}
      mode={mode}
      onMode={setMode}
      onFind={({ place, extent }) => {
        stage?.lookAt(place, Math.max(...extent));
      }}
    />
  );
}
