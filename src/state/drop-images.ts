import { assertNever } from '../core/base/assert';
import { describePorts } from '../core/compile/catalogue';
import { getNetwork } from '../core/edit/board';
import { exchangeNode } from '../core/edit/exchange';
import { addNode, setValue } from '../core/edit/nodes';
import type { BoardId, ImageValue, NetworkDocument } from '../core/graph/document';
import { bringImage } from './bring-image';
import { commit, select } from './editing';
import { tellChange } from './tell-change';

const IMAGE_NODE = 'patterns.image';
/** Board units between images that are dropped together. */
const APART = 230;
const IMAGES = /\.(png|jpe?g|exr|hdr)$/i;

/** Whether a file is an image by its name; what it really is shows when it is read. */
export const isImageFile = (file: File): boolean =>
  IMAGES.test(file.name) || file.type.startsWith('image/');

/** Where images were dropped: on a place of the board, or on the card of a node. */
export type DropPlace =
  | { readonly on: 'board'; readonly at: readonly [number, number] }
  | { readonly on: 'card'; readonly node: string };

/** Brings files into the studio, one after the other. @returns what came of each */
async function bringAll(files: readonly File[]) {
  const images: ImageValue[] = [];
  const problems: unknown[] = [];
  for (const file of files)
    await bringImage(file).then(
      (image) => images.push(image),
      (error: unknown) => problems.push(error),
    );
  return { images, problems };
}

/** The input of a node that holds an image; undefined where it holds none. */
function imageInput(document: NetworkDocument, board: BoardId, id: string): string | undefined {
  const node = getNetwork(document, board).nodes.find((each) => each.id === id);
  return node && describePorts(document, node)?.inputs.find(({ kind }) => kind === 'image')?.id;
}

/** Gives a node the image; one that holds none is exchanged for an image node. */
function onCard(node: string, image: ImageValue): void {
  let words = `Chose ${image.name}`;
  commit('Dropped an image on a card', (document, board) => {
    const input = imageInput(document, board, node);
    if (input !== undefined) return setValue(document, board, node, input, image);
    const made = exchangeNode(document, board, node, { type: IMAGE_NODE });
    if (!made) return document;
    words = `Exchanged for the image ${image.name}`;
    return setValue(made.document, board, node, 'image', image);
  });
  select([node]);
  tellChange(words);
}

/** Adds an image node for each, in a row from the place down. */
function onBoard([x, y]: readonly [number, number], images: readonly ImageValue[]): void {
  const ids: string[] = [];
  const title = images.length === 1 ? 'an image' : `${String(images.length)} images`;
  commit(`Dropped ${title}`, (document, board) =>
    images.reduce((current, image, k) => {
      const added = addNode(current, board, IMAGE_NODE, [x, y + k * APART]);
      ids.push(added.id);
      return setValue(added.document, board, added.id, 'image', image);
    }, document),
  );
  select(ids);
  tellChange(`Added ${title}`);
}

/**
 * Takes dropped image files: on the board each becomes a node; on a card the first takes the place
 * of its image, or of the node. What cannot be read is given back; the others are taken.
 */
export async function dropImages(files: readonly File[], place: DropPlace): Promise<unknown[]> {
  const wanted = place.on === 'card' ? files.slice(0, 1) : files;
  const { images, problems } = await bringAll(wanted);
  const [first] = images;
  if (!first) return problems;
  switch (place.on) {
    case 'card':
      onCard(place.node, first);
      break;
    case 'board':
      onBoard(place.at, images);
      break;
    default:
      assertNever(place);
  }
  return problems;
}
