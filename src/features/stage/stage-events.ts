import type { Camera } from '@/core/evaluate/camera';
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
}

/** What the stage tells the page; in the worker each call is a message. */
export interface StageEvents {
  onCamera(camera: Camera): void;
  /** Where a beacon is dragged to; nulls when the drag ends. */
  onBeacon(...moved: [id: string, to: BeaconMove] | [null, null]): void;
  onReport(report: StageReport): void;
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
