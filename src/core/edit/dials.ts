import { own } from '../base/own';
import { describePorts, inputPort } from '../compile/catalogue';
import { isTriple } from '../graph/document';
import type { Dial, Drive, GroupDefinition, Law, NetworkDocument } from '../graph/document';
import type { Variant } from '../graph/document';
import { freshId, getNetwork, withGroup } from './board';
import { kindUnder, offerDial } from './dial-offers';
import type { DialOffer } from './dial-offers';

/** The two ends of a span or a blend. */
export interface LawEnds {
  readonly low: number;
  readonly high: number;
}

const numberOf = ({ designed }: DialOffer): number => (typeof designed === 'number' ? designed : 0);

/** About as far as the value itself, or as its slider; a vector's as its longest part. */
function reachOf(offer: DialOffer, slider: readonly [number, number]): number {
  const { designed } = offer;
  if (offer.isWired) return 1;
  const size = isTriple(designed) ? Math.max(...designed.map(Math.abs)) : Math.abs(numberOf(offer));
  return size > 0 ? size : (slider[1] - slider[0]) / 2;
}

/** The ends that suit a span or blend: those of the slider, never equal, around the value. */
function endsFor(offer: DialOffer, [low, high]: readonly [number, number]): LawEnds {
  if (offer.isWired) return { low: 0, high: 1 };
  const designed = numberOf(offer);
  const ends = { low: Math.min(low, designed), high: Math.max(high, designed) };
  return ends.low === ends.high ? { low: designed - 0.5, high: designed + 0.5 } : ends;
}

function sliderOf(
  document: NetworkDocument,
  groupId: string,
  nodeId: string,
  input: string,
): { readonly soft: readonly [number, number]; readonly hard: readonly [number, number] } {
  const node = getNetwork(document, groupId).nodes.find((each) => each.id === nodeId);
  const port = node && inputPort(node, input);
  const dial = node && describePorts(document, node)?.inputs.find(({ id }) => id === input)?.dial;
  return {
    soft: port?.soft ?? dial?.soft ?? [0, 1],
    hard: port?.hard ?? dial?.hard ?? [-1e6, 1e6],
  };
}

/** A drive to an inner value by a law, with ends that suit the value unless others are given. */
export function makeDrive(
  document: NetworkDocument,
  groupId: string,
  node: string,
  input: string,
  law: Law,
  given?: LawEnds,
): Drive {
  const offer = offerDial(document, groupId, node, input);
  if (!offer || law === 'times' || law === 'power' || law === 'as is') return { node, input, law };
  const { soft } = sliderOf(document, groupId, node, input);
  if (law === 'lift') return { node, input, law, reach: reachOf(offer, soft) };
  const { low, high } = given ?? endsFor(offer, soft);
  // A blend on a strand begins with what arrives.
  return law === 'blend' && offer.isWired
    ? { node, input, law, high }
    : { node, input, law, low, high };
}

type Ranges = Pick<Dial, 'home' | 'soft' | 'hard' | 'step' | 'unit'>;
const RELATIVE: Ranges = { home: 1, soft: [0, 2], hard: [-100, 100], step: 0.01, unit: '' };

/** Home and ranges of a dial by its law: at home the value is as designed, to the bit. */
export function rangesFor(
  document: NetworkDocument,
  groupId: string,
  { node, input, law, low, high }: Drive,
  offer: DialOffer,
): Ranges {
  if (law === 'times' || law === 'lift') return RELATIVE;
  if (law === 'power') return { ...RELATIVE, soft: [0.1, 4], hard: [0, 100] };
  if (law === 'span' || law === 'blend') {
    const home =
      low === undefined || high === undefined
        ? 0
        : Math.round(((numberOf(offer) - low) / (high - low)) * 1e4) / 1e4;
    return {
      home,
      soft: [0, 1],
      hard: law === 'blend' ? [0, 1] : [-100, 100],
      step: 0.01,
      unit: '',
    };
  }
  const inner = getNetwork(document, groupId).nodes.find((each) => each.id === node);
  const port = inner && inputPort(inner, input);
  const dial = inner && describePorts(document, inner)?.inputs.find(({ id }) => id === input)?.dial;
  return {
    home: offer.designed,
    ...sliderOf(document, groupId, node, input),
    step: port?.step ?? dial?.step ?? 0.01,
    unit: port?.unit ?? dial?.unit ?? '',
  };
}

const takenIds = (group: GroupDefinition): ReadonlySet<string> =>
  new Set([...group.dials, ...group.inputs].map(({ id }) => id));

/** Exposes an inner value as a new dial whose home is exactly the look as designed. */
export function addDial(
  document: NetworkDocument,
  groupId: string,
  node: string,
  input: string,
  law: Law,
  name: string,
  ends?: LawEnds,
): { document: NetworkDocument; dialId: string } | null {
  const offer = offerDial(document, groupId, node, input);
  const group = own(document.groups, groupId);
  if (!offer?.laws.includes(law) || !group) return null;
  const inner = group.network.nodes.find((each) => each.id === node);
  const port = inner && inputPort(inner, input);
  const passed =
    inner && describePorts(document, inner)?.inputs.find(({ id }) => id === input)?.dial;
  const dialId = freshId('d', takenIds(group));
  const drive = makeDrive(document, groupId, node, input, law, ends);
  const dial: Dial = {
    id: dialId,
    name,
    help: port?.help ?? passed?.help ?? '',
    section: 'Main',
    kind: kindUnder(law, offer.kind),
    ...rangesFor(document, groupId, drive, offer),
    ...(offer.choices.length > 0 ? { choices: [...offer.choices] } : {}),
    ...(law === 'as is' && passed?.ends ? { ends: passed.ends } : {}),
    drives: [drive],
  };
  return {
    document: withGroup(document, groupId, (each) => ({ ...each, dials: [...each.dials, dial] })),
    dialId,
  };
}

/**
 * Passes all dials of a group inside on to the group around it, as they are; those that are driven
 * or wired already stay as they are. Unchanged where there is nothing to pass on.
 */
export function passDialsOn(
  document: NetworkDocument,
  groupId: string,
  nodeId: string,
): NetworkDocument {
  const node = getNetwork(document, groupId).nodes.find((each) => each.id === nodeId);
  const dials = node?.group === undefined ? [] : (own(document.groups, node.group)?.dials ?? []);
  return dials.reduce((changed, { id, name, section }) => {
    const isDriven = own(changed.groups, groupId)?.dials.some(({ drives }) =>
      drives.some((drive) => drive.node === nodeId && drive.input === id),
    );
    const made = isDriven ? null : addDial(changed, groupId, nodeId, id, 'as is', name);
    return made ? changeDial(made.document, groupId, made.dialId, { section }) : changed;
  }, document);
}

/** The document with a dial's name, help, section, ranges or home changed. */
export function changeDial(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
  change: Partial<Omit<Dial, 'id' | 'kind'>>,
): NetworkDocument {
  return withGroup(document, groupId, (group) => ({
    ...group,
    dials: group.dials.map((dial) => (dial.id === dialId ? { ...dial, ...change } : dial)),
  }));
}

/** Lets a dial drive one more value; unchanged where the dial cannot. */
export function addDrive(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
  node: string,
  input: string,
  /** That of its first drive where left out. */
  given?: Law,
): NetworkDocument {
  const dial = own(document.groups, groupId)?.dials.find((each) => each.id === dialId);
  const offer = offerDial(document, groupId, node, input);
  const wanted = given ?? dial?.drives[0]?.law ?? 'times';
  if (
    !dial ||
    !offer?.laws.includes(wanted) ||
    kindUnder(wanted, offer.kind) !== dial.kind ||
    dial.drives.some((drive) => drive.node === node && drive.input === input)
  )
    return document;
  return changeDial(document, groupId, dialId, {
    drives: [...dial.drives, makeDrive(document, groupId, node, input, wanted)],
  });
}

const withoutDial = ({ values, ...variant }: Variant, dialId: string): Variant => ({
  ...variant,
  values: Object.fromEntries(Object.entries(values).filter(([id]) => id !== dialId)),
});

/** Removes a dial; inner values keep what they had, strands to the dial go. */
export function removeDial(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
): NetworkDocument {
  return withGroup(document, groupId, (group) => ({
    ...group,
    dials: group.dials.filter((dial) => dial.id !== dialId),
    ...(group.variants
      ? { variants: group.variants.map((variant) => withoutDial(variant, dialId)) }
      : {}),
    network: {
      ...group.network,
      strands: group.network.strands.filter(
        (strand) => strand.from.output !== dialId || strand.from.node !== '@in',
      ),
    },
  }));
}

/** Moves a dial by so many places in the order of the front. */
export function moveDial(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
  by: -1 | 1,
): NetworkDocument {
  return withGroup(document, groupId, (group) => {
    const at = group.dials.findIndex((dial) => dial.id === dialId);
    const to = at + by;
    const dials = [...group.dials];
    const [dial] = dials.splice(at, 1);
    if (!dial || to < 0 || to > dials.length) return group;
    dials.splice(to, 0, dial);
    return { ...group, dials };
  });
}

/**
 * Puts a dial where another stands, in its section: before it when it came from further down, else
 * after it.
 */
export function placeDial(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
  at: string,
): NetworkDocument {
  return withGroup(document, groupId, (group) => {
    const dials = [...group.dials];
    const from = dials.findIndex(({ id }) => id === dialId);
    const to = dials.findIndex(({ id }) => id === at);
    const section = dials[to]?.section;
    const [dial] = from < 0 || section === undefined ? [] : dials.splice(from, 1);
    if (!dial || section === undefined) return group;
    dials.splice(to, 0, { ...dial, section });
    return { ...group, dials };
  });
}

/** The value a drive gives at a dial's setting, as the board's tags show it. */
export function drivenValue(designed: number, drive: Drive, dial: number, home: number): number {
  switch (drive.law) {
    case 'times':
      return designed * dial;
    case 'lift':
      return designed + (dial - 1) * (drive.reach ?? 0);
    case 'span':
      return designed + (dial - home) * ((drive.high ?? 0) - (drive.low ?? 0));
    case 'blend':
      return dial === home && isPlaceOf(designed, drive, home)
        ? designed
        : mixEnds(designed, drive, dial);
    case 'power':
      return dial === home ? designed : Math.max(designed, 0) ** dial;
    case 'as is':
      return dial;
  }
}

const mixEnds = (designed: number, { low = designed, high = 0 }: Drive, share: number): number =>
  low * (1 - share) + high * share;

/** Whether the designed value falls at the home of a blend, but for the rounding of the home. */
export const isPlaceOf = (designed: number, drive: Drive, home: number): boolean =>
  Math.abs(mixEnds(designed, drive, home) - designed) <=
  1e-3 * Math.abs((drive.high ?? 0) - (drive.low ?? designed));
