'use client';
import { Frame, Minus, Plus } from 'lucide-react';
import type { ModelEntry } from '@/contract/models';
import { BACKDROPS, stores } from '@/state/stores';
import type { Backdrop } from '@/state/stores';
import { useStage, useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { CompanionsPanel } from './CompanionsPanel';
import { LightsPanel } from './LightsPanel';
import { Word } from './StagePopover';
import { LookChoice } from './LookChoice';

interface Props {
  readonly models: readonly ModelEntry[];
  readonly onFrame: () => void;
}
/** Stops of exposure a press changes, and how far it goes either way. */
const STEP = 0.5,
  FARTHEST = 4;

/** All that belongs to seeing, in one bar over the stage: nothing of it changes the material. */
export function StageBar({ models, onFrame }: Props) {
  return (
    <div className={'scaled @container absolute inset-x-0 top-0'}>
      <div
        className={'flex flex-wrap items-center gap-x-2 gap-y-1 bg-stage/80 ' + 'p-1 text-[11px]'}
      >
        <LookChoice />
        <ExposureChoice />
        <BackdropChoice />
        <span className="ml-auto flex">
          <Button look="quiet" className="!px-1.5" onClick={onFrame} aria-label="Frame the model">
            <Frame size={13} /> <Word>Frame</Word>
          </Button>
          <LightsPanel />
          <CompanionsPanel models={models} />
        </span>
      </div>
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

const metres = (length: number): string =>
  length < 0.1
    ? `${(length * 1000).toPrecision(3)} mm`
    : `${String(Number(length.toPrecision(3)))} m`;

/** How large the current model is, in true measure. */
export function SizeNote() {
  const extent = useStage((state) => state.model?.scale.extent);
  if (!extent) return null;
  return (
    <span
      className="scaled figures pointer-events-none absolute right-1 bottom-1 text-[11px] text-ink"
      data-testid="model-size"
      title="Width × height × depth of the model"
    >
      {extent.map(metres).join(' × ')}
    </span>
  );
}
