import { openSettings } from './settings';
import { NO_IMAGE } from '../base/image';
import type { ImageAtlas } from '../base/image';
import { OUTPUT_EDGE, isImage } from '../graph/document';
import type { GroupDefinition, Network, NetworkDocument, NodeInstance } from '../graph/document';
import { pointer } from '../graph/pointer';
import { describePorts } from './catalogue';
import { findNode, getInputValue } from './uniforms';

/**
 * Whether an image's numbers are colours, which went through the sRGB curve, or data, which did
 * not.
 */
export type ImageReading = 'colour' | 'data';

/** Uniforms that describe an image: width, height, rows, last level, mean. */
export const IMAGE_UNIFORMS = 8;

/** An image some node reads: its number, its uniforms, and where its value is found. */
export interface ImageSlot {
  readonly slot: number;
  readonly base: number;
  readonly path: readonly string[];
  readonly input: string;
  readonly reading: ImageReading;
}
/** An image a document reads: its slot, where its numbers stand in the uniforms, its hash. */
export interface ImageDemand {
  readonly slot: number;
  readonly base: number;
  readonly hash: string;
  readonly reading: ImageReading;
}

/** Gives an image's sheet; undefined while it is not there. */
export type ImageSource = (hash: string, reading: ImageReading) => ImageAtlas | undefined;

/**
 * How a node's images are read: as its option says, or by what its colour and its channels are
 * wired into. Numbers, vectors and normal maps make it data; a colour, or nothing, makes it a
 * colour. Nodes that take any kind pass the question on.
 */
export function chooseReading(
  document: NetworkDocument,
  network: Network,
  group: GroupDefinition | null,
  node: NodeInstance,
): ImageReading {
  const chosen = node.options['reading'] ?? 'automatic';
  if (chosen !== 'automatic') return chosen as ImageReading;
  const wanted = wantedKinds(document, network, group, node, new Set());
  return wanted.size > 0 && !wanted.has('colour') ? 'data' : 'colour';
}

/** Whether an image that is read by what it is wired into is wanted both as colour and as data. */
export function isReadBothWays(
  document: NetworkDocument,
  network: Network,
  group: GroupDefinition | null,
  node: NodeInstance,
): boolean {
  const isAutomatic = (node.options['reading'] ?? 'automatic') === 'automatic';
  return isAutomatic && wantedKinds(document, network, group, node, new Set()).size > 1;
}

function wantedKinds(
  document: NetworkDocument,
  network: Network,
  group: GroupDefinition | null,
  node: NodeInstance,
  seen: Set<string>,
): Set<ImageReading> {
  const found = new Set<ImageReading>();
  seen.add(node.id);
  for (const { from, to } of network.strands) {
    // Alpha never went through a curve.
    if (from.node !== node.id || from.output === 'alpha') continue;
    if (to.node === OUTPUT_EDGE) {
      const kind = group?.outputs.find((port) => port.id === to.input)?.kind;
      found.add(kind === 'colour' || kind === 'surface' ? 'colour' : 'data');
      continue;
    }
    const target = network.nodes.find((each) => each.id === to.node);
    const port =
      target && describePorts(document, target)?.inputs.find((each) => each.id === to.input);
    if (!target || !port) continue;
    if (port.kind === 'flex') {
      if (!seen.has(target.id))
        for (const kind of wantedKinds(document, network, group, target, seen)) found.add(kind);
    } else
      found.add(port.kind === 'colour' && port.port?.quantity !== 'normal' ? 'colour' : 'data');
  }
  return found;
}

/** Which image stands in each slot for the document's present values. */
export function imageDemands(
  slots: readonly ImageSlot[],
  given: NetworkDocument,
): readonly ImageDemand[] {
  const document = openSettings(given);
  return slots.map(({ slot, base, path, input, reading }) => {
    const node = findNode(document, path);
    const value = node && getInputValue(node, input);
    return { slot, base, hash: isImage(value) ? value.image : '', reading };
  });
}

/** Writes what is known of the images into the uniforms, and gives back their sheets by slot. */
export function bindImages(
  demands: readonly ImageDemand[],
  uniforms: Float32Array,
  source: ImageSource,
): readonly ImageAtlas[] {
  return demands.map(({ base, hash, reading }) => {
    const sheet = (hash && source(hash, reading)) || NO_IMAGE;
    uniforms.set([sheet.width, sheet.height, sheet.rows, sheet.lastLevel, ...sheet.mean], base);
    return sheet;
  });
}

/** An image a node holds, and where. */
export interface ImagePlace {
  readonly hash: string;
  readonly name: string;
  readonly node: string;
  /** JSON Pointer to the value. */
  readonly pointer: string;
}

/** Every image a document names, once for each node that holds it. */
export function imagePlaces(document: NetworkDocument): readonly ImagePlace[] {
  const within = (network: Network, at: readonly string[]): ImagePlace[] =>
    network.nodes.flatMap((node, k) =>
      Object.entries(node.values).flatMap(([input, value]) =>
        isImage(value) && value.image
          ? [
              {
                hash: value.image,
                name: value.name,
                node: node.id,
                pointer: pointer([...at, 'nodes', k, 'values', input]),
              },
            ]
          : [],
      ),
    );
  return [
    ...within(document.network, ['network']),
    ...Object.entries(document.groups).flatMap(([id, group]) =>
      within(group.network, ['groups', id, 'network']),
    ),
  ];
}

const imagesOf = new WeakMap<NetworkDocument, readonly string[]>();
/** The hashes of all images a document names; found once for each state of it. */
export function imagesIn(document: NetworkDocument): readonly string[] {
  const known = imagesOf.get(document);
  if (known) return known;
  const hashes = [...new Set(imagePlaces(document).map(({ hash }) => hash))];
  imagesOf.set(document, hashes);
  return hashes;
}
