import { own } from '../base/own';
import { arrivingKey, outputKey } from '../graph/result-key';
import type { ResultKey } from '../base/ids';
import {
  chosenOptions,
  describePorts,
  findNodeDefinition,
  findGroupDefinition,
} from '../compile/catalogue';
import type { CompiledNetwork } from '../compile/compile';
import { outputQuantity } from '../compile/quantities';
import { findNode, getInputValue, rampModes } from '../compile/uniforms';
import { orderedStops, stopPlaces } from '../compile/ramp-rows';
import { isRamp } from '../graph/document';
import type { Network, NetworkDocument, NodeInstance } from '../graph/document';
import { pointer } from '../graph/pointer';
import type { Advice, AdviceReads, ValueRange } from '../nodes/advice';
import type { Family, PortKind } from '../nodes/define';
import { percent } from '../nodes/advice';
import { isShare } from '../nodes/quantities';
import { describeValues } from './statistics';

/** Finds the range of a result by its key; null where it was not measured. */
export type RangeLookup = (key: ResultKey) => ValueRange | null;

/** The place of a node: ids of the group nodes that lead to its board. */
export interface NodePlace {
  readonly document: NetworkDocument;
  readonly network: Network;
  readonly path: readonly string[];
  readonly node: NodeInstance;
}

const pathTo = ({ path, node }: NodePlace): readonly string[] => [...path, node.id];

/** Result keys of what a node's advice or its bench looks at beside its first output. */
export function watchedKeys(place: NodePlace): readonly string[] {
  return (findNodeDefinition(place.node)?.watches ?? []).map((name) =>
    name.startsWith(':')
      ? outputKey(pathTo(place), name.slice(1))
      : arrivingKey(pathTo(place), name),
  );
}

/** What there is to say about a node's values: in general, and by the node itself. */
export function adviseNode(place: NodePlace, lookup: RangeLookup): readonly Advice[] {
  const definition = findNodeDefinition(place.node);
  const outputs = describePorts(place.document, place.node)?.outputs ?? [];
  const first = outputs[0] && lookup(outputKey(pathTo(place), outputs[0].id));
  const follows: readonly Advice[] = definition?.follows
    ? [
        {
          code: 'value.follows',
          tone: 'fact',
          mark: definition.follows === 'camera' ? 'eye' : 'lit',
          message:
            definition.follows === 'camera'
              ? 'Follows the camera; a bake counts every point as seen straight on.'
              : 'Follows the lights; a bake freezes them as they stand.',
        },
      ]
    : [];
  const sourceless = noSource(place);
  return [
    ...follows,
    ...sourceless,
    ...(first ? generalAdvice(first, isShareAt(place, outputs[0]?.id ?? '', first)) : []).filter(
      // Why it is the same everywhere is said already.
      ({ code }) => code !== 'value.constant' || sourceless.length === 0,
    ),
    ...idleFactors(place),
    ...(definition?.advise(readsOf(place, lookup)) ?? []),
  ];
}

/** Families of nodes that shape what comes to them, and make nothing by themselves. */
const SHAPING: ReadonlySet<Family> = new Set(['ranges', 'gradients', 'masks', 'surface']);
const SHAPED: ReadonlySet<PortKind> = new Set(['scalar', 'flex', 'scalars']);

/** A node that shapes values and gets none: what it gives is one value everywhere. */
function noSource({ document, network, path, node }: NodePlace): readonly Advice[] {
  const definition = findNodeDefinition(node);
  const [entry] = Object.entries(definition?.inputs ?? {});
  if (!definition || !entry || node.off || !SHAPING.has(definition.family)) return [];
  const [id, port] = entry;
  const isWired = network.strands.some(({ to }) => to.node === node.id && to.input === id);
  const outer = path.length > 0 ? findNode(document, path) : undefined;
  const group = outer && findGroupDefinition(document, outer);
  const isDriven = group?.dials.some(({ drives }) =>
    drives.some((drive) => drive.node === node.id && drive.input === id),
  );
  if (isWired || isDriven || !SHAPED.has(port.kind)) return [];
  const value = getInputValue(node, id);
  return [
    {
      code: 'input.no-source',
      mark: 'no source',
      message:
        `Nothing is wired into ${port.title}` +
        `${typeof value === 'number' ? `: it is ${String(value)} everywhere` : ''}. Wire a ` +
        'source into it, such as a noise, a slope or a distance.',
      cure: { title: 'Wire a noise into it', source: 'patterns.noise', into: id },
    },
  ];
}

/** What is wired in and multiplied by a value that is typed as 0. */
function idleFactors({ node, network }: NodePlace): readonly Advice[] {
  const inputs = findNodeDefinition(node)?.inputs ?? {};
  const isWired = (id: string): boolean =>
    network.strands.some(({ to }) => to.node === node.id && to.input === id);
  return Object.entries(inputs).flatMap(([id, { title, factor }]) => {
    const other = factor === undefined ? undefined : own(inputs, factor);
    if (factor === undefined || !other || !isWired(id) || isWired(factor)) return [];
    if (getInputValue(node, factor) !== 0) return [];
    return [
      {
        code: 'factor.idle' as const,
        mark: '×0',
        message: `${title} does nothing: ${other.title} is 0.`,
        cure: { title: `Set ${other.title} to 1`, input: factor, value: 1 },
      },
    ];
  });
}

/** Whether what an output gives is a share: places, directions and angles may be anything. */
const isShareAt = (
  { document, network, node }: NodePlace,
  output: string,
  { kind }: ValueRange,
): boolean =>
  kind !== 'vector' && isShare(outputQuantity(document, network, { node: node.id, output }));

/** @param isLimited whether the value is a share, which means nothing more outside 0–1 */
function generalAdvice(range: ValueRange, isLimited: boolean): readonly Advice[] {
  const limit = { cure: { title: 'Limit to 0–1', limit: true } } as const;
  const found: Advice[] = [];
  if (range.notANumber > 0)
    found.push({
      code: 'value.not-a-number',
      mark: '∅',
      message: `${percent(range.notANumber)} of the surface is not a number`,
    });
  if (isLimited && range.below > 0)
    found.push({
      code: 'value.below',
      mark: '<0',
      message: `${percent(range.below)} of the surface lies below 0`,
      ...limit,
    });
  if (isLimited && range.above > 0)
    found.push({
      code: 'value.above',
      mark: '>1',
      message: `${percent(range.above)} of the surface lies above 1`,
      ...limit,
    });
  if (range.constant)
    found.push({
      code: 'value.constant',
      mark: '=',
      message: 'The same value over the whole surface',
    });
  return found;
}

function readsOf(place: NodePlace, lookup: RangeLookup): AdviceReads {
  const { node, network } = place;
  const definition = findNodeDefinition(node);
  const options = definition ? chosenOptions(definition, node) : {};
  return {
    arriving: (input) => lookup(arrivingKey(pathTo(place), input)),
    result: (output) => lookup(outputKey(pathTo(place), output)),
    isWired: (input) =>
      network.strands.some((strand) => strand.to.node === node.id && strand.to.input === input),
    isTyped: (input) => own(node.values, input) !== undefined,
    choice: (option) => options[option] ?? '',
    number: (input) => {
      const value = getInputValue(node, input);
      return typeof value === 'number' ? value : null;
    },
    stops: (input) => {
      const value = getInputValue(node, input);
      if (!isRamp(value)) return [];
      const { layout } = rampModes(node);
      const stops = orderedStops(value, layout);
      return stopPlaces(stops, layout).map((place, k) => ({
        place,
        holds: layout !== 'placed' || stops[k]?.segment === 'hold',
      }));
    },
  };
}

/**
 * Every node of a document, those inside groups once for each place where the group stands. A group
 * inside itself is not opened again.
 */
export function listPlaces(
  document: NetworkDocument,
): readonly (NodePlace & { readonly pointer: string })[] {
  const walk = (
    network: Network,
    path: readonly string[],
    at: readonly string[],
    open: readonly string[],
  ): (NodePlace & { pointer: string })[] =>
    network.nodes.flatMap((node, k) => {
      const here = { document, network, path, node, pointer: pointer([...at, 'nodes', k]) };
      const group = findGroupDefinition(document, node);
      return [
        here,
        ...(group && !open.includes(group.id)
          ? walk(
              group.network,
              [...path, node.id],
              ['groups', group.id, 'network'],
              [...open, group.id],
            )
          : []),
      ];
    });
  return walk(document.network, [], ['network'], []);
}

/** Result keys that advice on a whole document looks at beside the outputs. */
export const watchedIn = (document: NetworkDocument): readonly string[] =>
  listPlaces(document).flatMap(watchedKeys);

/** An advice with its place, as the command line writes it. */
export interface PlacedAdvice {
  readonly severity: 'note';
  readonly code: Advice['code'];
  readonly node: string;
  readonly pointer: string;
  readonly message: string;
  readonly range: ValueRange | null;
}

/**
 * All that is to be said about the values of a document.
 * @param compiled with all taps, and `watchedIn` watched
 * @param outputs what its program wrote, one array per lane
 */
export function adviseDocument(
  document: NetworkDocument,
  compiled: CompiledNetwork,
  outputs: readonly Float32Array[],
): readonly PlacedAdvice[] {
  const ranges = new Map(
    compiled.slots
      .filter((slot) => slot.kind !== 'surface')
      .map((slot) => [
        slot.key,
        { ...describeValues(outputs.slice(slot.first, slot.first + slot.lanes)), kind: slot.kind },
      ]),
  );
  const lookup: RangeLookup = (wanted) => ranges.get(wanted) ?? null;
  return listPlaces(document).flatMap((place) =>
    adviseNode(place, lookup).map(({ code, message }) => {
      const [output] = describePorts(document, place.node)?.outputs ?? [];
      return {
        severity: 'note' as const,
        code,
        node: pathTo(place).join('/'),
        pointer: place.pointer,
        message,
        range: output ? lookup(outputKey(pathTo(place), output.id)) : null,
      };
    }),
  );
}
