import type { NodeId, ResultKey } from '../base/ids';
import { describePorts } from '../compile/catalogue';
import { findNode, getInputValue } from '../compile/uniforms';
import { boardAt, getNetwork } from '../edit/board';
import { setAmount } from '../edit/amounts';
import { setValue } from '../edit/nodes';
import { disconnect } from '../edit/strands';
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
/** A node or a strand as a whole. */
export type PartPlace = { readonly path: readonly NodeId[] } & (
  | { readonly part: 'node'; readonly node: NodeId }
  | { readonly part: 'strand'; readonly id: string }
);
/** What is asked where it changes what is shown. */
export type InfluencePlace = ValuePlace | PartPlace;
/** Where something changes what is shown, as a camera sees it; rows from the top. */
export interface Influence {
  readonly width: number;
  readonly height: number;
  /**
   * How much what is shown changes per width of the slider, at the present setting: the derivative,
   * the largest over all lanes; of a node by its overall amount, of a strand the whole difference
   * to the board without it. Not a number where there is no surface.
   */
  readonly strength: Float32Array<ArrayBuffer>;
  /**
   * 1 where some setting on the slider, or the board without the node or strand, gives something
   * else than the present one, else 0.
   */
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
interface Pair<State> {
  readonly below: State;
  readonly above: State;
  readonly apart: number;
}
interface Trials<State> {
  readonly now: State;
  readonly pairs: readonly Pair<State>[];
  readonly samples: readonly State[];
}

/** What is tried of a value; null for one that cannot be set. */
export function trialsOf(
  document: NetworkDocument,
  { path, node: id, input }: ValuePlace,
): Trials<InputValue> | null {
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

/** Documents in which a value, a node or a strand is tried; null for what cannot be. */
function documentTrials(
  document: NetworkDocument,
  place: InfluencePlace,
): Trials<NetworkDocument> | null {
  const board = boardAt(document, place.path);
  if (!('part' in place)) {
    const found = trialsOf(document, place);
    if (!found) return null;
    const at = (value: InputValue): NetworkDocument =>
      setValue(document, board, place.node, place.input, value);
    return {
      now: at(found.now),
      pairs: found.pairs.map(({ below, above, apart }) => ({
        below: at(below),
        above: at(above),
        apart,
      })),
      samples: found.samples.map(at),
    };
  }
  if (place.part === 'strand') {
    if (!getNetwork(document, board).strands.some(({ id }) => id === place.id)) return null;
    const without = disconnect(document, board, [place.id]);
    return { now: document, pairs: [{ below: without, above: document, apart: 1 }], samples: [] };
  }
  const node = findNode(document, [...place.path, place.node]);
  if (!node) return null;
  const amount = node.amount ?? 1;
  const at = (value: number): NetworkDocument => setAmount(document, board, place.node, value);
  const [below, above] = [Math.max(0, amount - HALF_STEP), amount + HALF_STEP];
  return {
    now: at(amount),
    pairs: [{ below: at(below), above: at(above), apart: above - below }],
    samples: [at(0)],
  };
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
   * @returns null for a value that cannot be set, and for what is not there any more
   * @throws CompileError when the document has errors
   */
  find(
    model: LoadedModel,
    document: NetworkDocument,
    place: InfluencePlace,
    pin: ResultKey | null,
    camera: Camera,
    width: number,
    isQuick = false,
  ): Influence | null {
    const found = documentTrials(document, place);
    if (!found) return null;
    const trials = isQuick ? { ...found, samples: [] } : found;
    const seen = this.see(model, camera, width);
    const session = this.sessionFor(pin);
    const look = (tried: NetworkDocument): readonly Float32Array[] =>
      session.evaluate(tried, model.mesh, seen.points, model.measured);
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
  { now, pairs, samples }: Trials<NetworkDocument>,
  look: (tried: NetworkDocument) => readonly Float32Array[],
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
