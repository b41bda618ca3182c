import { createStore } from 'zustand/vanilla';
import type { Triple } from '@/core/graph/document';

/** How many colours used last are kept. */
const MOST = 12;
const KEPT_AS = 'bright-loom colours';

interface ColourState {
  /** The colours used last in this browser, the newest first; linear Rec. 709. */
  readonly recent: readonly Triple[];
  /** What was copied last on this page. */
  readonly copied: Triple | null;
}

const isColour = (value: unknown): value is Triple =>
  Array.isArray(value) && value.length === 3 && value.every((x) => Number.isFinite(x));

function readKept(): readonly Triple[] {
  try {
    const kept: unknown = JSON.parse(globalThis.localStorage.getItem(KEPT_AS) ?? '[]');
    return Array.isArray(kept) ? kept.filter(isColour).slice(0, MOST) : [];
  } catch {
    // No storage, or something else stands there: it begins anew.
    return [];
  }
}

/** Colours at hand for every field of a colour. */
export const colours = createStore<ColourState>()(() => ({ recent: readKept(), copied: null }));

const isSame = (a: Triple, b: Triple): boolean =>
  a.every((x, k) => Math.abs(x - (b[k] ?? 0)) < 1e-4);

/** A colour that was settled on comes first among those used last. */
export function noteColour(colour: Triple): void {
  const { recent } = colours.getState();
  const others = recent.filter((each) => !isSame(each, colour));
  const next = [colour, ...others].slice(0, MOST);
  colours.setState({ recent: next });
  try {
    globalThis.localStorage.setItem(KEPT_AS, JSON.stringify(next));
  } catch {
    // Only this page knows them then.
  }
}

export function copyColour(colour: Triple): void {
  colours.setState({ copied: colour });
}
