import { setDials } from '../edit/variants';
import type { DialValues } from '../edit/variants';
import { dialStates } from '../edit/sheet-plan';
import { own } from '../base/own';
import { isChoice } from '../graph/document';
import type {
  Dial,
  GroupDefinition,
  GroupPort,
  InputValue,
  NetworkDocument,
  Strand,
} from '../graph/document';
import { outputKey } from '../graph/result-key';
import { uniformPoints } from '../mesh/sample-points';
import type { SamplePoints } from '../mesh/sample-points';
import { EvaluationSession } from '../evaluate/session';
import type { ProofModel } from '../evaluate/proof';
import { ALONE, cardAlone, plainNode } from './card-alone';
import type { ReleasedGroups } from './release-groups';
import type { ReleaseClass } from './versions';

/** Points per model at which two releases are compared. */
export const CLASS_POINTS = 1024;

/** How a release stands to the one before it. */
export interface ReleaseComparison {
  readonly releaseClass: ReleaseClass;
  /** What those who use the one before would miss, in words; empty unless it is breaking. */
  readonly missing: readonly string[];
  /** Dial settings at which it looks different, home among them, with the share of points. */
  readonly moved: readonly { readonly setting: string; readonly share: number }[];
  readonly points: number;
  readonly models: readonly string[];
}

/** What of a dial's values does not fit any more; in words. */
function narrowed(was: Dial, is: Dial): readonly string[] {
  if (was.kind !== is.kind) return [`the dial “${was.name}” holds a ${is.kind}, no ${was.kind}`];
  const offered = new Set((is.choices ?? []).map(({ value }) => value));
  const gone = is.choices
    ? (was.choices ?? []).filter(({ value }) => !offered.has(value)).map(({ title }) => title)
    : [];
  const range =
    was.kind === 'scalar' && (is.hard[0] > was.hard[0] || is.hard[1] < was.hard[1])
      ? [`the dial “${was.name}” goes from ${String(is.hard[0])} to ${String(is.hard[1])} only`]
      : [];
  return [...gone.map((title) => `the dial “${was.name}” does not offer “${title}”`), ...range];
}

function missingPorts(
  side: 'input' | 'output',
  was: readonly GroupPort[],
  is: readonly GroupPort[],
): readonly string[] {
  return was.flatMap(({ id, name, kind, many }) => {
    const port = is.find((each) => each.id === id);
    if (!port) return [`the ${side} “${name}”`];
    if (port.kind !== kind) return [`the ${side} “${name}” is a ${port.kind}, no ${kind}`];
    return many && !port.many ? [`the ${side} “${name}” takes one strand only`] : [];
  });
}

/** What those who use a release would miss in another, in words. */
export function findMissing(before: GroupDefinition, after: GroupDefinition): readonly string[] {
  return [
    ...missingPorts('input', before.inputs, after.inputs),
    ...missingPorts('output', before.outputs, after.outputs),
    ...before.dials.flatMap((dial) => {
      const now = after.dials.find(({ id }) => id === dial.id);
      return now ? narrowed(dial, now) : [`the dial “${dial.name}”`];
    }),
  ];
}

/** A number, short enough for a title. */
const short = (value: number): string => String(Number(value.toPrecision(4)));

/**
 * Values that a card may have kept of a dial that both have: ends of both sliders, both homes, what
 * lies between, and what can be typed in both.
 */
function keptValues(dial: Dial, now: Dial): readonly (readonly [string, InputValue])[] {
  const { home, soft } = dial;
  if (dial.kind !== 'scalar' || typeof home !== 'number' || typeof now.home !== 'number')
    return dialStates(dial).map(({ title, value }) => [title, value] as const);
  const least = Math.max(dial.hard[0], now.hard[0]);
  const most = Math.min(dial.hard[1], now.hard[1]);
  const between = ([low, high]: readonly [number, number]): readonly number[] =>
    [0.25, 0.5, 0.75].map((share) => low + (high - low) * share);
  const values = [...soft, ...now.soft, home, now.home, ...between(soft), least, most];
  // What cannot be typed any more is told apart.
  const inBoth = values.filter((value) => value >= least && value <= most);
  return [...new Set(inBoth)].sort((x, y) => x - y).map((value) => [short(value), value] as const);
}

/**
 * Every dial of both at values that a card may have kept, each on its own; home first, which a card
 * follows that has kept nothing.
 */
function settingsOf(
  before: GroupDefinition,
  after: GroupDefinition,
): readonly { readonly title: string; readonly values: DialValues }[] {
  const rows = before.dials.flatMap((dial) => {
    const now = after.dials.find(({ id }) => id === dial.id);
    if (now?.kind !== dial.kind) return [];
    return keptValues(dial, now)
      .filter(([, value]) => !isChoice(value) || hasChoice(now, value.choice))
      .map(([title, value]) => ({
        title: `“${dial.name}” at ${title}`,
        values: { [dial.id]: value },
      }));
  });
  return [{ title: 'home', values: {} }, ...rows];
}
const hasChoice = (dial: Dial, choice: string): boolean =>
  dial.choices?.some(({ value }) => value === choice) ?? false;

/** Where something that varies over the surface comes from, by the kind of an input. */
const FEEDS: Readonly<
  Record<GroupPort['kind'], { readonly node: string; readonly output: string }>
> = {
  scalar: { node: 'noise', output: 'value' },
  vector: { node: 'noise', output: 'vector' },
  colour: { node: 'noise', output: 'vector' },
  surface: { node: 'paint', output: 'surface' },
};

/** The group's card on a board of its own, with nothing wired, or with every input fed. */
function setting(groups: ReleasedGroups, isFed: boolean): NetworkDocument {
  const document = cardAlone(groups);
  if (!isFed) return document;
  const tone: Strand = {
    id: 'tone',
    from: FEEDS.scalar,
    to: { node: 'paint', input: 'roughness' },
    order: 0,
  };
  const feeds = (own(groups.definitions, groups.root)?.inputs ?? []).map(
    ({ id, kind }, k): Strand => ({
      id: `feed${String(k)}`,
      from: FEEDS[kind],
      to: { node: ALONE, input: id },
      order: 0,
    }),
  );
  const sources = [plainNode('noise', 'patterns.noise'), plainNode('paint', 'surface.surface')];
  return {
    ...document,
    network: {
      ...document.network,
      nodes: [...sources, ...document.network.nodes],
      strands: [tone, ...feeds],
    },
  };
}

type Prepared = ProofModel & { readonly points: SamplePoints };

/** Evaluates some outputs of a group's card at settings of its dials. */
class Side {
  private readonly session: EvaluationSession;
  private readonly document: NetworkDocument;

  constructor(
    groups: ReleasedGroups,
    outputs: readonly string[],
    isFed: boolean,
    private readonly models: readonly Prepared[],
  ) {
    this.document = setting(groups, isFed);
    this.session = new EvaluationSession({
      surface: false,
      taps: outputs.map((id) => outputKey([ALONE], id)),
    });
  }

  at(values: DialValues): readonly (readonly Float32Array[])[] {
    const set = setDials(this.document, null, ALONE, values);
    return this.models.map(({ analysis, maps, points }) =>
      this.session.evaluate(set, analysis.mesh, points, maps),
    );
  }
}

/** The share of points at which two results are not equal to the bit. */
function shareApart(
  a: readonly (readonly Float32Array[])[],
  b: readonly (readonly Float32Array[])[],
): number {
  let [differ, points] = [0, 0];
  a.forEach((lanes, m) => {
    const others = b[m] ?? [];
    const count = lanes[0]?.length ?? 0;
    points += count;
    if (lanes.length !== others.length) {
      differ += count;
      return;
    }
    for (let k = 0; k < count; k++)
      if (lanes.some((lane, l) => !Object.is(lane[k], others[l]?.[k]))) differ++;
  });
  return points > 0 ? differ / points : 0;
}

/**
 * Computes how a release stands to the one before: *breaking* where something that could be used is
 * missing (which is named); *same* where home and every end of every dial are equal to the bit at
 * all points, unwired and with every input fed; else *compatible*.
 * @throws CompileError when either release is broken
 */
export function compareReleases(
  before: ReleasedGroups,
  after: ReleasedGroups,
  models: readonly ProofModel[],
): ReleaseComparison {
  const [was, is] = [own(before.definitions, before.root), own(after.definitions, after.root)];
  if (!was || !is) throw new Error('Invariant broken: a release without its group');
  const missing = findMissing(was, is);
  const prepared = models.map((model) => ({
    ...model,
    points: uniformPoints(model.analysis.mesh, CLASS_POINTS),
  }));
  const outputs = was.outputs
    .map(({ id }) => id)
    .filter((id) => is.outputs.some((port) => port.id === id));
  const moved = new Map<string, number>();
  for (const isFed of was.inputs.length > 0 ? [false, true] : [false]) {
    if (outputs.length === 0) break;
    const [old, now] = [
      new Side(before, outputs, isFed, prepared),
      new Side(after, outputs, isFed, prepared),
    ];
    for (const each of settingsOf(was, is)) {
      const share = shareApart(old.at(each.values), now.at(each.values));
      if (share > 0) moved.set(each.title, Math.max(share, moved.get(each.title) ?? 0));
    }
  }
  return {
    releaseClass: missing.length > 0 ? 'breaking' : moved.size > 0 ? 'compatible' : 'same',
    missing,
    moved: [...moved].map(([title, share]) => ({ setting: title, share })),
    points: CLASS_POINTS,
    models: models.map(({ name }) => name),
  };
}
