import type { NodeId, ResultKey } from '../base/ids';
import { describePorts } from '../compile/catalogue';
import { findNode, getInputValue } from '../compile/uniforms';
import { boardAt } from '../edit/board';
import { setValue } from '../edit/nodes';
import { dialStates } from '../edit/sheet-plan';
import { isTriple } from '../graph/document';
import type { InputValue, NetworkDocument, Triple } from '../graph/document';
import { seePoints } from './camera';
import type { Camera, VisiblePoints } from './camera';
import type { LoadedModel } from './loaded-model';
import { EvaluationSession } from './session';

/** A value that is set on a node: a dial on a group's card, or any input. */
export interface ValuePlace {
  /** The nodes that lead to the board it is on. */
  readonly path: readonly NodeId[];
  readonly node: NodeId;
  readonly input: string;
}
/** Where a value changes what is shown, as a camera sees it; rows from the top. */
export interface Influence {
  readonly width: number;
  readonly height: number;
  /**
   * How much what is shown changes per width of the slider, at the present setting: the derivative,
   * the largest over all lanes. Not a number where there is no surface.
   */
  readonly strength: Float32Array<ArrayBuffer>;
  /** 1 where some setting on the slider gives something else than the present one, else 0. */
  readonly reach: Uint8Array<ArrayBuffer>;
  /** The largest strength; 0 where nothing changes. */
  readonly largest: number;
}

/** Half the distance of the two settings of a derivative, as a share of the slider. */
const HALF_STEP = 1 / 512;
/** Settings tried over the slider. */
const SAMPLES = 8;
/** Lanes that differ by less, relative to their size, are the same. */
const SAME = 1e-6;

const isOther = (a: number, b: number): boolean =>
  !(Math.abs(a - b) <= SAME * Math.max(1, Math.abs(a))) && !(Number.isNaN(a) && Number.isNaN(b));

/** Two settings around the present one, and how far they are apart in widths of the slider. */
interface Pair {
  readonly below: InputValue;
  readonly above: InputValue;
  readonly apart: number;
}
interface Trials {
  readonly now: InputValue;
  readonly pairs: readonly Pair[];
  readonly samples: readonly InputValue[];
}

/** What is tried of a value; null for one that cannot be set. */
export function trialsOf(
  document: NetworkDocument,
  { path, node: id, input }: ValuePlace,
): Trials | null {
  const node = findNode(document, [...path, id]);
  const view = node && describePorts(document, node)?.inputs.find((each) => each.id === input);
  const now = node && (getInputValue(node, input) ?? view?.dial?.home);
  if (!view || now === undefined) return null;
  const [low, high] = view.port?.soft ?? view.dial?.soft ?? [0, 1];
  const [least, most] = view.port?.hard ?? view.dial?.hard ?? [-Infinity, Infinity];
  const width = high - low;
  const around = (value: number): readonly [number, number] => [
    Math.max(least, value - width * HALF_STEP),
    Math.min(most, value + width * HALF_STEP),
  ];
  if (typeof now === 'number') {
    const [below, above] = around(now);
    const samples = Array.from({ length: SAMPLES + 1 }, (_, k) => low + (width * k) / SAMPLES);
    return { now, pairs: [{ below, above, apart: (above - below) / width }], samples };
  }
  if (isTriple(now)) {
    const at = (k: number, value: number): Triple =>
      now.map((x, n) => (n === k ? value : x)) as unknown as Triple;
    const pairs = now.map((value, k) => {
      const [below, above] = around(value);
      return { below: at(k, below), above: at(k, above), apart: (above - below) / width };
    });
    return { now, pairs, samples: [0, 1, 2].flatMap((k) => [at(k, low), at(k, high)]) };
  }
  if (!view.dial) return null;
  return { now, pairs: [], samples: dialStates(view.dial).map(({ value }) => value) };
}

interface Sight {
  readonly key: string;
  readonly model: LoadedModel;
  readonly seen: VisiblePoints;
}

/**
 * Finds where values change what is shown. Compiles once while only values that flow change; what a
 * camera sees is looked up once.
 */
export class InfluenceFinder {
  private readonly sessions = new Map<string, EvaluationSession>();
  private sight: Sight | null = null;
  /** How often something was compiled. */
  get compilations(): number {
    return [...this.sessions.values()].reduce((sum, { compilations }) => sum + compilations, 0);
  }

  /**
   * @param pin what is shown; null for the finished surface
   * @param width of the grid, pixels; the height follows from the camera
   * @param isQuick the derivative alone; `reach` then holds only what changes just now
   * @returns null for a value that cannot be set
   * @throws CompileError when the document has errors
   */
  find(
    model: LoadedModel,
    document: NetworkDocument,
    place: ValuePlace,
    pin: ResultKey | null,
    camera: Camera,
    width: number,
    isQuick = false,
  ): Influence | null {
    const found = trialsOf(document, place);
    if (!found) return null;
    const trials = isQuick ? { ...found, samples: [] } : found;
    const seen = this.see(model, camera, width);
    const session = this.sessionFor(pin);
    const board = boardAt(document, place.path);
    const look = (value: InputValue): readonly Float32Array[] =>
      session.evaluate(
        setValue(document, board, place.node, place.input, value),
        model.mesh,
        seen.points,
        model.measured,
      );
    return gather(trials, look, seen);
  }

  private sessionFor(pin: ResultKey | null): EvaluationSession {
    const known = this.sessions.get(pin ?? '');
    if (known) return known;
    const made = new EvaluationSession({
      surface: pin === null,
      taps: pin === null ? [] : [pin],
      antialias: [],
    });
    this.sessions.clear();
    this.sessions.set(pin ?? '', made);
    return made;
  }

  private see(model: LoadedModel, camera: Camera, width: number): VisiblePoints {
    const key = JSON.stringify([camera, width]);
    if (this.sight?.key !== key || this.sight.model !== model) {
      const height = Math.max(1, Math.round(width / camera.aspect));
      this.sight = { key, model, seen: seePoints(model.analysis, camera, width, height) };
    }
    return this.sight.seen;
  }
}

function gather(
  { now, pairs, samples }: Trials,
  look: (value: InputValue) => readonly Float32Array[],
  { width, height, pixels }: VisiblePoints,
): Influence {
  const strength = new Float32Array(width * height).fill(Number.NaN);
  const reach = new Uint8Array(width * height);
  for (const pixel of pixels) strength[pixel] = 0;
  for (const { below, above, apart } of pairs) {
    const [lower, upper] = [look(below), look(above)];
    lower.forEach((lane, l) => {
      const other = upper[l];
      if (!other) return;
      pixels.forEach((pixel, k) => {
        const [a = 0, b = 0] = [lane[k], other[k]];
        const slope = isOther(a, b) ? Math.abs(a - b) / apart : 0;
        if (slope > (strength[pixel] ?? 0)) strength[pixel] = slope;
        if (slope > 0 || Number.isNaN(slope)) reach[pixel] = 1;
      });
    });
  }
  const present = samples.length > 0 ? look(now) : [];
  for (const sample of samples) {
    const lanes = look(sample);
    lanes.forEach((lane, l) => {
      const other = present[l];
      if (!other) return;
      pixels.forEach((pixel, k) => {
        if (reach[pixel] === 0 && isOther(lane[k] ?? 0, other[k] ?? 0)) reach[pixel] = 1;
      });
    });
  }
  let largest = 0;
  for (const value of strength) if (value > largest) largest = value;
  return { width, height, strength, reach, largest };
}
