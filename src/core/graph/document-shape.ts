import type { GroupId, MaterialId, NodeId, PortId } from '../base/ids';
import type { StopId, StrandId } from '../base/ids';
import {
  AMOUNT,
  DOCUMENT_FORMAT,
  DOCUMENT_VERSION,
  LIMITS,
  OPACITY_MODES,
  SEGMENTS,
} from './limits';
import {
  companionsShape,
  id,
  imageValue,
  keptView,
  lightSetup,
  referenceShape,
  sceneLight,
  surroundingsShape,
} from './scene-shape';

export { imageValue } from './scene-shape';
import {
  either,
  exactly,
  flag,
  list,
  mapOf,
  named,
  number,
  oneOf,
  optional,
  pair,
  record,
  text,
  triple,
  whole,
} from './shape';

/*
 * The form of a saved document: from here come its types (document.ts), the check of the program
 * (schema.ts) and the JSON Schema for others (json-schema.ts).
 */

const name = text(LIMITS.name);
const words = text(LIMITS.text);

/**
 * One stop of a ramp; colour in linear Rec. 709, not premultiplied; `segment` shapes the way to the
 * next stop.
 */
export const rampStop = named(
  'stop',
  record({
    id: id<StopId>(),
    position: number(),
    colour: triple,
    alpha: number(0, 1),
    segment: oneOf(...SEGMENTS),
    /** What of it is an input of the node, to be wired or driven. */
    open: optional(list(oneOf('position', 'colour', 'alpha'), { most: 3, unique: true })),
  }),
);
/** A ramp: its stops in order. */
export const rampValue = named(
  'ramp',
  record({ stops: list(rampStop, { least: 2, most: LIMITS.rampStops }) }),
);
/** What is typed into a formula; longer than one may be, so that its own check can say so. */
export const formulaValue = named('formula', record({ formula: text(LIMITS.formula) }));
/** A curve through points (x, y), x rising. */
export const curveValue = named(
  'curve',
  record({ points: list(pair, { least: 2, most: LIMITS.curvePoints }) }),
);
/** A choice of an option, set by a dial. */
export const choiceValue = named('choice', record({ choice: name }));
/** Whatever an input or a dial may hold when nothing is wired to it. */
export const inputValue = either(
  number(),
  triple,
  rampValue,
  formulaValue,
  curveValue,
  imageValue,
  choiceValue,
);

/** A node on a board. */
export const nodeInstance = named(
  'node',
  record({
    id: id<NodeId>(),
    /** `family.name` of the catalogue, or `group`. */
    type: text(80, 1),
    version: whole(1, LIMITS.whole),
    name: optional(name),
    /** Board units, x to the right, y down. */
    at: pair,
    values: mapOf(id<PortId>(), inputValue, LIMITS.values),
    options: mapOf(id(), name, LIMITS.values),
    /** Scalar and colour results are limited to 0–1. */
    limited: optional(flag),
    folded: optional(flag),
    /** Out of action: it passes on what fits of what it gets. */
    off: optional(exactly(true)),
    /** How much of what it does is kept: 0 as if it were off, 1 all, 2 twice as much. */
    amount: optional(number(...AMOUNT)),
    /** The same of dials that are set on a card: 0 at home, 1 as set. */
    amounts: optional(mapOf(id<PortId>(), number(...AMOUNT), LIMITS.values)),
    /** Nodes of a board with the same mark are edited together. */
    twin: optional(id()),
    /** Of a `group` node: the definition in `groups`. */
    group: optional(id<GroupId>()),
  }),
);

const outputEnd = record({ node: id<NodeId>(), output: id<PortId>() });
const inputEnd = record({ node: id<NodeId>(), input: id<PortId>() });

/** How a colour or vector becomes a scalar. */
export const conversion = oneOf(
  'luminance',
  'average',
  'largest',
  'first',
  'second',
  'third',
  'length',
);

/** A connection from an output to an input. */
export const strandShape = named(
  'strand',
  record({
    id: id<StrandId>(),
    from: outputEnd,
    to: inputEnd,
    /** Place among the strands of an input that takes many. */
    order: number(),
    conversion: optional(conversion),
    /** Carried as a mere number: what it stands for is neither converted nor judged. */
    plain: optional(exactly(true)),
    /** Points it is led through on the board, from its start. */
    bends: optional(list(pair, { least: 1, most: LIMITS.bends })),
  }),
);

/** A titled area of a board. */
export const regionShape = record({ id: id(), title: name, at: pair, size: pair });
/** A text on a board. */
export const noteShape = record({ id: id(), text: words, at: pair });

/** What stands on one board. */
export const networkShape = named(
  'network',
  record({
    nodes: list(nodeInstance, { most: LIMITS.nodes }),
    strands: list(strandShape, { most: LIMITS.strands }),
    regions: list(regionShape, { most: LIMITS.regions }),
    notes: list(noteShape, { most: LIMITS.notes }),
  }),
);

/** How a dial decides an inner value. */
export const law = oneOf('times', 'lift', 'span', 'blend', 'power', 'as is');

/** The link from a dial to one inner value. */
export const driveShape = named(
  'drive',
  record({
    node: id<NodeId>(),
    /** Of a dial that is a choice: the option. */
    input: id<PortId>(),
    law,
    /** lift: inner = designed + (dial − 1) × reach. */
    reach: optional(number()),
    /** span and blend: the two ends. A blend without `low` begins with what arrives. */
    low: optional(number()),
    high: optional(number()),
  }),
);

/** What a dial carries. Those after the first three are set, never wired. */
export const dialKind = oneOf(
  'scalar',
  'vector',
  'colour',
  'choice',
  'ramp',
  'curve',
  'image',
  'formula',
);

/** An exposed, normalised parameter of a group; it is an input of the group too. */
export const dialShape = named(
  'dial',
  record({
    id: id<PortId>(),
    name,
    help: words,
    unit: name,
    section: name,
    kind: dialKind,
    home: inputValue,
    /** Of a choice: those that are offered, as they are called outside. */
    choices: optional(list(record({ value: name, title: name }), { most: LIMITS.choices })),
    /** What its low and its high end do, in a few words. */
    ends: optional(record({ low: name, high: name })),
    soft: pair,
    hard: pair,
    step: number(0),
    drives: list(driveShape, { most: LIMITS.drives }),
  }),
);

/** What travels along a strand; ports that take several kinds become the widest that arrives. */
export const valueKind = oneOf('scalar', 'vector', 'colour', 'surface');

/** An input or an output of a group. */
export const groupPort = named(
  'port',
  record({
    id: id<PortId>(),
    name,
    kind: valueKind,
    help: optional(words),
    /** Unwired: this value; without one, what `unwired` says. */
    fallback: optional(either(number(), triple)),
    /**
     * Unwired, without a value: what changes nothing where it goes, or coordinates. Absent: the
     * inner inputs fall back to their own values.
     */
    unwired: optional(oneOf('neutral', 'position', 'texture', 'normal')),
    /** Not shown outside until something is wired to it. */
    hidden: optional(exactly(true)),
    /** Takes any number of strands, as a list of masks. */
    many: optional(exactly(true)),
  }),
);

/** Where a group came from: what the proof compares it with. */
export const originShape = record({
  materialId: id<MaterialId>(),
  revision: whole(0, LIMITS.whole),
  /** Per input of the group, the output in the source network that fed it. */
  inputs: mapOf(id<PortId>(), outputEnd, LIMITS.ports),
  /** Per output of the group, the output in the source network it replaces. */
  outputs: mapOf(id<PortId>(), outputEnd, LIMITS.ports),
});

/** A named set of dial values; dials it does not name are home. */
export const variantShape = named(
  'variant',
  record({ id: id(), name, values: mapOf(id<PortId>(), inputValue, LIMITS.dials) }),
);

/** A group: its network, its ports and its dials. */
export const groupDefinition = named(
  'group',
  record({
    id: id<GroupId>(),
    name,
    description: words,
    inputs: list(groupPort, { most: LIMITS.ports }),
    outputs: list(groupPort, { most: LIMITS.ports }),
    /** In the order of the front. */
    dials: list(dialShape, { most: LIMITS.dials }),
    network: networkShape,
    /** Named sets of its dials' values, in the order they are offered. */
    variants: optional(list(variantShape, { most: LIMITS.variants, unique: 'id' })),
    /** What it cannot do, for whoever uses it. */
    limits: optional(words),
    origin: optional(originShape),
    /** Set when it was placed from the library; `pinned` says why it stays at this release. */
    release: optional(record({ entryId: id(), version: text(40, 1), pinned: optional(words) })),
  }),
);

/** The saved form of a material: a network that ends in a surface, and the groups it uses. */
export const documentShape = record({
  format: exactly(DOCUMENT_FORMAT),
  version: exactly(DOCUMENT_VERSION),
  name,
  network: networkShape,
  groups: mapOf(id<GroupId>(), groupDefinition, LIMITS.groups),
  /** Absent: chosen by the values of the finished surface. */
  opacityMode: optional(oneOf(...OPACITY_MODES)),
  /** Absent: `DEFAULT_LIGHTS`. */
  lights: optional(list(sceneLight, { most: LIMITS.lights, unique: 'id' })),
  /** Absent: `DEFAULT_SURROUNDINGS`. */
  surroundings: optional(surroundingsShape),
  lightSetups: optional(list(lightSetup, { most: LIMITS.lightSetups, unique: 'id' })),
  /** Absent: the current model stands alone. */
  companions: optional(companionsShape),
  references: optional(list(referenceShape, { most: LIMITS.references, unique: 'id' })),
  views: optional(list(keptView, { most: LIMITS.views, unique: 'id' })),
});
