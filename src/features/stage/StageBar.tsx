'use client';
import {
  ArrowDownToLine,
  Blend,
  Frame,
  Grid2x2,
  Images,
  Lightbulb,
  Minus,
  Plus,
  Shapes,
} from 'lucide-react';
import { useCallback, useState } from 'react';
import type { ReactNode } from 'react';
import { getCompanions } from '@/core/edit/companions';
import { scaleBar } from '@/core/evaluate/scale-bar';
import { BACKDROPS, stores } from '@/state/stores';
import type { Backdrop } from '@/state/stores';
import { useDocument, useStage, useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { DockButton, Word } from './StageDock';
import { LookChoice } from './LookChoice';

interface Props {
  readonly onFrame: () => void;
  /** What stands under it, however many rows it takes: at the left, and at the right. */
  readonly children: readonly [ReactNode, ReactNode];
  /** What is wrong, under all of it. */
  readonly warnings: ReactNode;
}
/** Stops of exposure a press changes, and how far it goes either way. */
const STEP = 0.5,
  FARTHEST = 4;

/** All that belongs to seeing, in one bar over the stage: nothing of it changes the material. */
export function StageBar({ onFrame, children: [left, right], warnings }: Props) {
  return (
    <div className="scaled @container pointer-events-none absolute inset-x-0 top-0">
      <div
        className={
          'pointer-events-auto flex flex-wrap items-center gap-1 bg-stage/80 p-1 text-[11px]'
        }
      >
        <LookChoice />
        <ExposureChoice />
        <BackdropChoice />
        <FlatChoice />
        <GroundChoice />
        <BallsChoice />
        <span className="ml-auto flex">
          <Button
            look="quiet"
            className="min-h-[24px] min-w-[24px] !px-1"
            onClick={onFrame}
            aria-label="Frame the model"
          >
            <Frame size={13} /> <Word>Frame</Word>
          </Button>
          <DockButton panel="lights" word="Lights" icon={<Lightbulb size={14} />} />
          <DockButton panel="companions" word="Beside" icon={<Shapes size={14} />} />
          <DockButton panel="references" word="References" icon={<Images size={14} />} />
        </span>
      </div>
      <div className="flex items-start justify-between gap-2 px-1 text-[11px]">
        <div className="pointer-events-auto min-w-0">{left}</div>
        <div className="pointer-events-auto flex flex-col items-end">{right}</div>
      </div>
      <div className="pointer-events-auto mx-2 mt-1 flex flex-col gap-1">{warnings}</div>
    </div>
  );
}

/** How bright the stage is shown, in stops: each doubles the light. */
function ExposureChoice() {
  const exposure = useView((state) => state.exposure);
  const change = (by: number): void => {
    const next = Math.min(FARTHEST, Math.max(-FARTHEST, exposure + by));
    stores.view.setState({ exposure: next });
  };
  return (
    <span className="flex items-center" role="group" aria-label="Exposure">
      <IconButton
        name="Half a stop darker"
        onClick={() => {
          change(-STEP);
        }}
      >
        <Minus size={11} />
      </IconButton>
      <button
        type="button"
        title="Exposure in stops; a click puts it back to 0"
        aria-label={`Exposure ${exposure.toFixed(1)} stops; put back`}
        className={`figures min-h-[24px] w-[42px] ${exposure === 0 ? 'text-soft' : 'text-weld'}`}
        onClick={() => {
          stores.view.setState({ exposure: 0 });
        }}
      >
        {exposure > 0 ? '+' : ''}
        {exposure.toFixed(1)}
      </button>
      <IconButton
        name="Half a stop brighter"
        onClick={() => {
          change(STEP);
        }}
      >
        <Plus size={11} />
      </IconButton>
    </span>
  );
}

/** The grey behind the model. */
function BackdropChoice() {
  const backdrop = useView((state) => state.backdrop);
  return (
    <span className="flex gap-0.5" role="group" aria-label="Grey behind the model">
      {(Object.entries(BACKDROPS) as [Backdrop, string][]).map(([name, grey]) => (
        <button
          key={name}
          type="button"
          aria-label={`Behind the model: ${name}`}
          title={`Behind the model: ${name}`}
          aria-pressed={backdrop === name}
          className={
            'h-[24px] w-[24px] border ' +
            (backdrop === name ? 'border-weld outline outline-1 outline-weld' : 'border-line')
          }
          style={{ background: grey }}
          onClick={() => {
            stores.view.setState({ backdrop: name });
          }}
        />
      ))}
    </span>
  );
}

/** Whether the models stand on a ground. */
function GroundChoice() {
  const ground = useView((state) => state.ground);
  return (
    <IconButton
      name="Ground under the model"
      isPressed={ground}
      onClick={() => {
        stores.view.setState({ ground: !ground });
      }}
    >
      <ArrowDownToLine size={13} />
    </IconButton>
  );
}

/** Whether what is shown lies spread out in texture space. */
function FlatChoice() {
  const flat = useView((state) => state.flat);
  return (
    <IconButton
      name="Spread out in texture space, with seams"
      isPressed={flat}
      onClick={() => {
        stores.view.setState({ flat: !flat });
      }}
    >
      <Grid2x2 size={13} />
    </IconButton>
  );
}

/** Whether a grey and a mirror ball stand in the same light. */
function BallsChoice() {
  const balls = useView((state) => state.balls);
  return (
    <IconButton
      name="Grey and mirror ball in the same light"
      isPressed={balls}
      onClick={() => {
        stores.view.setState({ balls: !balls });
      }}
    >
      <Blend size={13} />
    </IconButton>
  );
}

const metres = (length: number): string =>
  length < 0.1
    ? `${String(Number((length * 1000).toPrecision(3)))} mm`
    : `${String(Number(length.toPrecision(3)))} m`;

/** The longest a scale bar gets, pixels. */
const LONGEST_BAR = 110;

/** How large the current model is, in true measure, and a length beside it. */
export function SizeNote() {
  const extent = useStage((state) => state.model?.scale.extent);
  const flat = useView((state) => state.flat);
  if (!extent || flat) return null;
  return (
    <div
      className={
        'scaled figures pointer-events-none absolute inset-x-1.5 bottom-1 flex items-end ' +
        'justify-between text-[11px] text-ink'
      }
    >
      <LengthBar />
      <span data-testid="model-size" title="Width × height × depth of the model">
        {extent.map(metres).join(' × ')}
      </span>
    </div>
  );
}

/** A round length at the depth the camera looks at; models of several sizes share none. */
function LengthBar() {
  const camera = useView((state) => state.camera);
  const isAlone = useDocument((state) => getCompanions(state.document).models.length === 0);
  const [height, setHeight] = useState(0);
  const watch = useCallback((element: HTMLElement | null) => {
    const stage = element?.closest('[data-testid="stage"]');
    if (!stage) return;
    const observer = new ResizeObserver(() => {
      setHeight(stage.clientHeight);
    });
    observer.observe(stage);
    return () => {
      observer.disconnect();
    };
  }, []);
  const bar = camera && height > 0 && isAlone ? scaleBar(camera, height, LONGEST_BAR) : null;
  return (
    <span ref={watch} className="flex flex-col items-start">
      {bar ? (
        <>
          <span>{metres(bar.metres)}</span>
          <span
            className="block h-[5px] border border-t-0 border-current"
            style={{ width: bar.pixels }}
            role="img"
            aria-label={`Scale: this bar is ${metres(bar.metres)} long`}
          />
        </>
      ) : null}
    </span>
  );
}
