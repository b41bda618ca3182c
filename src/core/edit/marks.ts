import { LIMITS } from '../graph/document';
import type { NetworkDocument, Note, Region, Strand } from '../graph/document';
import { freshId, getNetwork } from './board';
import type { BoardId } from './board';
import { changeBoard } from './nodes';

/** A place on a board, or a size there: x to the right, y down. */
export type Place = readonly [number, number];
/** Stands in no id of a document, so a mark cannot be taken for a node. */
const SIGN = '~';
/**
 * Names for what stands on a board beside its nodes: notes, regions, and bends by their strand and
 * their place in the order from its start.
 */
export const markId = {
  note: (id: string): string => `note${SIGN}${id}`,
  region: (id: string): string => `region${SIGN}${id}`,
  bend: (strand: string, k: number): string => `bend${SIGN}${strand}${SIGN}${String(k)}`,
} as const;
/** Whether an element of the board is a note, a region or a bend, not a node. */
export const isMark = (id: string): boolean => id.includes(SIGN);
/** Whether an element of the board is a bend of a strand. */
export const isBend = (id: string): boolean => id.startsWith(`bend${SIGN}`);

/** Adds a note at a place. */
export function addNote(
  document: NetworkDocument,
  board: BoardId,
  at: Place,
  text: string,
): NetworkDocument {
  return changeBoard(document, board, (network) => {
    const note: Note = {
      id: freshId('note', new Set(network.notes.map((each) => each.id))),
      text,
      at,
    };
    return { ...network, notes: [...network.notes, note] };
  });
}

/** Adds a region with its upper left corner at a place. */
export function addRegion(
  document: NetworkDocument,
  board: BoardId,
  at: Place,
  size: Place,
  title: string,
): NetworkDocument {
  return changeBoard(document, board, (network) => {
    const region: Region = {
      id: freshId('region', new Set(network.regions.map((each) => each.id))),
      title,
      at,
      size,
    };
    return { ...network, regions: [...network.regions, region] };
  });
}

/**
 * Leads a strand through one more point: between the two of its places (ends included) where that
 * makes it longest the least.
 * @param ends where the strand begins and ends on the board
 */
export function addBend(
  document: NetworkDocument,
  board: BoardId,
  strandId: string,
  at: Place,
  ends: readonly [Place, Place],
): NetworkDocument {
  return changeStrand(document, board, strandId, (strand) => {
    const bends = strand.bends ?? [];
    if (bends.length >= LIMITS.bends) return strand;
    const path = [ends[0], ...bends, ends[1]];
    const detour = (k: number): number =>
      apart(path[k] as Place, at) +
      apart(at, path[k + 1] as Place) -
      apart(path[k] as Place, path[k + 1] as Place);
    const place = path.slice(1).reduce((best, _, k) => (detour(k) < detour(best) ? k : best), 0);
    return { ...strand, bends: [...bends.slice(0, place), at, ...bends.slice(place)] };
  });
}
const apart = (a: Place, b: Place): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** A strand goes straight again. */
export const removeAllBends = (
  document: NetworkDocument,
  board: BoardId,
  strandId: string,
): NetworkDocument => changeStrand(document, board, strandId, (strand) => withBends(strand, []));

function withBends(strand: Strand, bends: readonly Place[]): Strand {
  const { bends: _old, ...rest } = strand;
  return bends.length > 0 ? { ...rest, bends } : rest;
}

function changeStrand(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  change: (strand: Strand) => Strand,
): NetworkDocument {
  if (!getNetwork(document, board).strands.some((strand) => strand.id === id)) return document;
  return changeBoard(document, board, (network) => ({
    ...network,
    strands: network.strands.map((strand) => (strand.id === id ? change(strand) : strand)),
  }));
}

/** Moves notes, regions and bends to places given by their mark ids. */
export function moveMarks(
  document: NetworkDocument,
  board: BoardId,
  places: ReadonlyMap<string, Place>,
): NetworkDocument {
  if (![...places.keys()].some(isMark)) return document;
  return changeBoard(document, board, (network) => ({
    ...network,
    notes: network.notes.map((note) => ({
      ...note,
      at: places.get(markId.note(note.id)) ?? note.at,
    })),
    regions: network.regions.map((region) => ({
      ...region,
      at: places.get(markId.region(region.id)) ?? region.at,
    })),
    strands: network.strands.map((strand) =>
      strand.bends
        ? withBends(
            strand,
            strand.bends.map((bend, k) => places.get(markId.bend(strand.id, k)) ?? bend),
          )
        : strand,
    ),
  }));
}

/** Removes notes, regions and bends by their mark ids. */
export function removeMarks(
  document: NetworkDocument,
  board: BoardId,
  ids: readonly string[],
): NetworkDocument {
  if (!ids.some(isMark)) return document;
  return changeBoard(document, board, (network) => ({
    ...network,
    notes: network.notes.filter((note) => !ids.includes(markId.note(note.id))),
    regions: network.regions.filter((region) => !ids.includes(markId.region(region.id))),
    strands: network.strands.map((strand) =>
      strand.bends
        ? withBends(
            strand,
            strand.bends.filter((_, k) => !ids.includes(markId.bend(strand.id, k))),
          )
        : strand,
    ),
  }));
}
