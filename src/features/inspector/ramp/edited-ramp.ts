import type { RampStop, RampValue } from '@/core/graph/document';
import type { RampModes } from '@/core/nodes/ramp-table';
import type { RampWindow } from './ramp-window';

/** Takes a changed ramp: as part of a gesture, or as a step of its own, with its name. */
export type ChangeRamp = (ramp: RampValue, gesture: string | null, label: string) => void;

/** The values at which a ramp begins and ends, in the units of what is wired in. */
export interface RampDomain {
  readonly from: number;
  readonly to: number;
}

/** A ramp in its editor. */
export interface EditedRamp {
  readonly ramp: RampValue;
  readonly modes: RampModes;
  /** null where the ends are wired or driven: then only shares of the ramp can be told. */
  readonly domain: RampDomain | null;
}

/** What the bar of a ramp shows and tells. */
export interface RampBarProps extends EditedRamp {
  readonly window: RampWindow;
  readonly onWindow: (window: RampWindow) => void;
  readonly histogram: Uint32Array | null;
  /** Where on the ramp the surface under the pointer is, 0–1. */
  readonly reading: number | null;
  readonly chosenId: string | null;
  readonly faultyStops: ReadonlySet<string>;
  readonly onChoose: (id: string) => void;
  /** Along the ramp, 0–1. */
  readonly onAdd: (place: number) => void;
  readonly onRemove: (id: string) => void;
  /** `apart`: the stop leaves those that stand at its place. */
  readonly onMove: (id: string, place: number, gesture: string | null, apart: boolean) => void;
  readonly onDone: () => void;
  /** Asks for the place of the surface that uses a place of the ramp; null where none is known. */
  readonly onExplain: ((place: number) => void) | null;
}

/** What the tools of a ramp act on. */
export interface RampToolsProps extends EditedRamp {
  readonly stop: RampStop;
  readonly window: RampWindow;
  readonly onWindow: (window: RampWindow) => void;
  readonly onChange: ChangeRamp;
  /** At a place, or in the widest gap. */
  readonly onAdd: (place: number | null) => void;
  readonly onRemove: (id: string) => void;
}
