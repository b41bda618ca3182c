import type { Camera } from '@/core/evaluate/camera';
import type { Triple } from '@/core/graph/document';
import type { SampleExtent } from '@/core/mesh/sample-points';
import type { FillParts } from '@/state/fill-parts';
import type { Answer } from '@/workers/answer';
import type { BeaconMove } from './stage-beacons';

/**
 * Whether a picture is still to come; of two reports the one with the greater number is the later.
 */
export interface StageReport {
  readonly number: number;
  readonly isBusy: boolean;
}
export type StageMode = 'program' | 'workers';
export interface StageFacts {
  readonly mode: StageMode;
  readonly targets: number;
  /** Whether the workers draw because the graphics processor can write too few values at once. */
  readonly isShort: boolean;
}
/** What a stage is opened with; no mode: it decides by the graphics processor there is. */
export interface StageWishes {
  readonly mode: StageMode | null;
  readonly trial: StageTrial | null;
}
/**
 * How a driver is imitated that takes its time, refuses programs, or can do little; and what a test
 * spares: a stage that rests fills and draws nothing, `ratio` is its pixels for each of the page's.
 */
export interface StageTrial {
  readonly isResting?: boolean;
  readonly ratio?: number;
  readonly delayMs?: number;
  readonly isRefusing?: boolean;
  readonly mostTargets?: number;
}

/** What the stage tells the page; in the worker each call is a message. */
export interface StageEvents {
  onCamera(camera: Camera): void;
  /** Where a beacon is dragged to; nulls when the drag ends. */
  onBeacon(...moved: [id: string, to: BeaconMove] | [null, null]): void;
  /** Where a light is dragged to, in its own measure; nulls when the drag ends. */
  onLight(...moved: [id: string, at: Triple] | [null, null]): void;
  onReport(report: StageReport): void;
  /** The driver took no program for a network; the workers go on filling its picture. */
  onRefused(reason: string): void;
  /** The graphics processor gave the stage up. */
  onLost(): void;
  fill(
    name: string,
    version: string,
    triangles: Uint32Array,
    weights: Float32Array,
    isWhole: boolean,
    sample: SampleExtent,
  ): Promise<Answer<FillParts>>;
}
