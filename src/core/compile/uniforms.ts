import { openSettings } from './settings';
import { own } from '../base/own';
import type { RampModes } from '../nodes/ramp-table';
import type { InputPort } from '../nodes/define';
import { isChoice, isCurve, isFormula, isImage, isRamp, isTriple } from '../graph/document';
import type {
  Dial,
  GroupDefinition,
  InputValue,
  Network,
  NetworkDocument,
  NodeInstance,
  RampStop,
  RampValue,
  Triple,
} from '../graph/document';
import { findNodeDefinition, findGroupDefinition, inputPort, findStop } from './catalogue';
import { writeLights } from './lights';
import { IDENTITY_PLACEMENT, getTurn } from './model-scale';
import type { ModelScale } from './model-scale';
import { orderedStops, writeCurve, writeRamp } from './ramp-rows';

/**
 * The first uniforms describe the model: size, lowest corner, extent of the bounds, one spare; its
 * place in the scene, scale, cosine and sine of its turn, two spare.
 */
export const MODEL_UNIFORMS = 16;

/** Where the value of a uniform is found in the document. */
export type BindingSource =
  | { readonly from: 'input'; readonly path: readonly string[]; readonly input: string }
  /** The row of a stop in its ramp's table. */
  | {
      readonly from: 'stop row';
      readonly path: readonly string[];
      readonly input: string;
      readonly stop: string;
    }
  | { readonly from: 'dial'; readonly path: readonly string[]; readonly dial: string }
  | { readonly from: 'amount'; readonly path: readonly string[] }
  | { readonly from: 'home'; readonly path: readonly string[]; readonly dial: string }
  | { readonly from: 'fallback'; readonly path: readonly string[]; readonly input: string }
  | {
      readonly from: 'drive';
      readonly path: readonly string[];
      readonly dial: string;
      readonly drive: number;
      readonly field: 'reach' | 'low' | 'high';
    };
/** Uniforms from `index` on that are written from the document before a program runs. */
export interface Binding {
  readonly index: number;
  readonly shape: 'scalar' | 'triple' | 'ramp' | 'curve' | 'lights';
  readonly source: BindingSource | SceneSource;
}
/** What is found in the model or in the scene, not at a node. */
export type SceneSource =
  { readonly from: 'attribute'; readonly name: string } | { readonly from: 'lights' };

const nodesById = new WeakMap<Network['nodes'], ReadonlyMap<string, NodeInstance>>();
/** A node of a network; the nodes are indexed once for as long as they are the same. */
function nodeIn({ nodes }: Network, id: string): NodeInstance | undefined {
  let index = nodesById.get(nodes);
  if (!index) {
    index = new Map(nodes.map((node) => [node.id, node]));
    nodesById.set(nodes, index);
  }
  return index.get(id);
}

/** Finds a node by the path of ids that leads through its groups. */
export function findNode(
  document: NetworkDocument,
  path: readonly string[],
): NodeInstance | undefined {
  let network = document.network;
  let node: NodeInstance | undefined;
  for (const id of path) {
    if (node) {
      const group = findGroupDefinition(document, node);
      if (!group) return undefined;
      network = group.network;
    }
    node = nodeIn(network, id);
    if (!node) return undefined;
  }
  return node;
}

/** The default stops of a ramp input as a saved value. */
export function defaultRamp(port: InputPort): RampValue {
  const stops = Array.isArray(port.default)
    ? (port.default as readonly { position: number; colour: Triple }[])
    : [];
  return {
    stops: stops.map((stop, k): RampStop => ({
      id: `s${String(k + 1)}`,
      position: stop.position,
      colour: stop.colour,
      alpha: 1,
      segment: 'linear',
    })),
  };
}

/**
 * The value an input shows: typed, or its default; undefined for coordinate defaults and inputs
 * without a value.
 */
export function getInputValue(node: NodeInstance, input: string): InputValue | undefined {
  const typed = own(node.values, input);
  if (typed !== undefined) return typed;
  const stop = findStop(node, input);
  if (stop) return stopValue(node, stop);
  const port = own(findNodeDefinition(node)?.inputs, input);
  if (!port) return undefined;
  if (port.kind === 'ramp') return defaultRamp(port);
  if (isCurve(port.default)) return port.default;
  if (isFormula(port.default)) return port.default;
  if (typeof port.default === 'number') return port.default;
  return isTriple(port.default) ? port.default : undefined;
}

/** What is typed for a stop that is an input. */
function stopValue(
  node: NodeInstance,
  { input, id, aspect }: NonNullable<ReturnType<typeof findStop>>,
): InputValue | undefined {
  const ramp = getInputValue(node, input);
  return isRamp(ramp) ? ramp.stops.find((stop) => stop.id === id)?.[aspect] : undefined;
}

/** How a node lays out and blends its ramp. */
export const rampModes = (node: NodeInstance): RampModes => ({
  layout: (node.options['layout'] ?? 'placed') as RampModes['layout'],
  blend: (node.options['blend'] ?? 'light') as RampModes['blend'],
});

const dialOf = (group: GroupDefinition | undefined, id: string): Dial | undefined =>
  group?.dials.find((dial) => dial.id === id);

/** What a dial of a card stands at: what was set, by the amount of it that is kept; else home. */
export function getDialValue(node: NodeInstance, dial: Dial | undefined): InputValue | undefined {
  if (!dial) return undefined;
  const set = own(node.values, dial.id);
  const amount = own(node.amounts ?? {}, dial.id);
  if (set === undefined || amount === undefined || amount === 1) return set ?? dial.home;
  const { home } = dial;
  const between = (from: number, to: number): number => from + (to - from) * amount;
  if (typeof set === 'number' && typeof home === 'number') return between(home, set);
  if (!isTriple(set) || !isTriple(home)) return set;
  return [between(home[0], set[0]), between(home[1], set[1]), between(home[2], set[2])];
}

function read(document: NetworkDocument, source: BindingSource): InputValue | undefined {
  const node = findNode(document, source.path);
  if (!node) return undefined;
  if (source.from === 'input') return limited(node, source.input);
  if (source.from === 'amount') return node.amount ?? 1;
  if (source.from === 'stop row') {
    const ramp = getInputValue(node, source.input);
    return isRamp(ramp)
      ? orderedStops(ramp, rampModes(node).layout).findIndex((stop) => stop.id === source.stop)
      : -1;
  }
  const group = findGroupDefinition(document, node);
  if (source.from === 'fallback')
    return group?.inputs.find((port) => port.id === source.input)?.fallback;
  const dial = dialOf(group, source.dial);
  if (source.from === 'dial') {
    const value = getDialValue(node, dial);
    return value !== undefined && dial?.kind === 'scalar' ? withinRange(value, dial.hard) : value;
  }
  if (source.from === 'home') return dial?.home;
  return dial?.drives[source.drive]?.[source.field];
}

/** Numbers limited to a range, also those of a vector or colour. */
function withinRange(value: InputValue, [low, high]: readonly [number, number]): InputValue {
  const limit = (each: number): number => Math.min(Math.max(each, low), high);
  if (typeof value === 'number') return limit(value);
  return isTriple(value) ? [limit(value[0]), limit(value[1]), limit(value[2])] : value;
}

/** What is typed into an input, within the hard range of its port. */
function limited(node: NodeInstance, input: string): InputValue | undefined {
  const value = getInputValue(node, input);
  const port = inputPort(node, input);
  return value !== undefined && port ? withinRange(value, port.hard) : value;
}

function writeModel(values: Float32Array, { size, minimum, extent, frame }: ModelScale): void {
  const placement = frame?.placement ?? IDENTITY_PLACEMENT;
  const { cosine, sine } = getTurn(placement);
  values.set([size, ...minimum, ...extent, 0, ...placement.at, placement.scale, cosine, sine], 0);
}

/** Fills the uniforms of a compiled network from the document's present values. */
export function writeUniforms(
  given: NetworkDocument,
  bindings: readonly Binding[],
  count: number,
  model: ModelScale,
): Float32Array<ArrayBuffer> {
  const document = openSettings(given);
  const values = new Float32Array(count);
  writeModel(values, model);
  for (const { index, shape, source } of bindings) {
    if (source.from === 'lights') {
      writeLights(values, index, document, model);
      continue;
    }
    if (source.from === 'attribute') {
      values[index] = model.attributes?.find(({ name }) => name === source.name)?.width ?? 0;
      continue;
    }
    const value = read(document, source);
    if (value === undefined || isFormula(value) || isImage(value) || isChoice(value)) continue;
    if (isRamp(value))
      writeRamp(values, index, value, rampModes(findNode(document, source.path) as NodeInstance));
    else if (isCurve(value)) writeCurve(values, index, value);
    else if (typeof value === 'number')
      values.fill(value, index, index + (shape === 'triple' ? 3 : 1));
    else values.set(value, index);
  }
  return values;
}
