import { describePorts, findNodeDefinition } from '../compile/catalogue';
import type { CompiledNetwork } from '../compile/compile';
import { outputQuantity } from '../compile/quantities';
import { describeValues } from '../evaluate/statistics';
import type { NetworkDocument } from '../graph/document';
import { arrivingKey, outputKey } from '../graph/result-key';
import type { Advice, ValueRange } from '../nodes/advice';
import { isShare } from '../nodes/quantities';
import { idleAdvice } from './idle';
import { listPlaces, pathTo } from './places';
import type { NodePlace } from './places';
import { readsOf } from './reads';
import type { RangeLookup } from './reads';
import { cutAdvice, generalAdvice } from './values';
import { beforeLimit } from './watched';

const FOLLOWS = {
  camera: {
    mark: 'eye',
    message: 'Follows the camera; a bake counts every point as seen straight on.',
  },
  lights: { mark: 'lit', message: 'Follows the lights; a bake freezes them as they stand.' },
} as const;

/** What there is to say about a node's values: in general, and by the node itself. */
export function adviseNode(place: NodePlace, lookup: RangeLookup): readonly Advice[] {
  const definition = findNodeDefinition(place.node);
  const [output] = describePorts(place.document, place.node)?.outputs ?? [];
  const first = output && lookup(outputKey(pathTo(place), output.id));
  const follows: readonly Advice[] = definition?.follows
    ? [{ code: 'value.follows', tone: 'fact', ...FOLLOWS[definition.follows] }]
    : [];
  const idle = idleAdvice(place);
  const isSourceless = idle.some(({ code }) => code === 'input.no-source');
  return [
    ...follows,
    ...idle,
    ...(first ? generalAdvice(first, isShareAt(place, output.id, first)) : []).filter(
      // Why it is the same everywhere is said already.
      ({ code }) => code !== 'value.constant' || !isSourceless,
    ),
    ...cuts(place, lookup),
    ...(definition?.advise(readsOf(place, lookup)) ?? []),
  ];
}

/** What the node's own limit to 0–1 loses, and what it cuts by what it does. */
function cuts(place: NodePlace, lookup: RangeLookup): readonly Advice[] {
  const limited = beforeLimit(place);
  const unlimited = limited === null ? null : lookup(limited);
  const found = unlimited
    ? cutAdvice(unlimited, { lowest: 0, highest: 1, by: 'The limit to 0–1' })
    : [];
  const own = findNodeDefinition(place.node)?.cuts;
  const ends = own && !place.node.off ? own.ends(readsOf(place, lookup)) : null;
  const arriving = own && ends ? lookup(arrivingKey(pathTo(place), own.of)) : null;
  return ends && arriving ? [...found, ...cutAdvice(arriving, { ...ends, by: 'It' })] : found;
}

/** Whether what an output gives is a share: places, directions and angles may be anything. */
const isShareAt = (
  { document, network, node }: NodePlace,
  output: string,
  { kind }: ValueRange,
): boolean =>
  kind !== 'vector' && isShare(outputQuantity(document, network, { node: node.id, output }));

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
