import type { RampValue } from '@/core/graph/document';

/** Takes a changed ramp: as part of a gesture, or as a step of its own, with its name. */
export type ChangeRamp = (ramp: RampValue, gesture: string | null, label: string) => void;
