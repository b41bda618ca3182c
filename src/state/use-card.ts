'use client';
import { useShallow } from 'zustand/react/shallow';
import { own } from '../core/base/own';
import { findGroupDefinition } from '../core/compile/catalogue';
import { findNode } from '../core/compile/uniforms';
import { getNetwork } from '../core/edit/board';
import { driveLines } from '../core/edit/drive-sentence';
import { indexNetwork } from '../core/edit/network-index';
import type { NetworkIndex } from '../core/edit/network-index';
import type {
  BoardId,
  GroupDefinition,
  NetworkDocument,
  NodeInstance,
  Strand,
} from '../core/graph/document';
import { boardAt } from '../core/edit/board';
import { useDocument, useView } from './use-stores';

/** What a card follows of the document: its own node, its strands, and the group it stands for. */
export interface CardView {
  readonly node: NodeInstance | undefined;
  readonly group: GroupDefinition | null;
  readonly arriving: readonly Strand[];
  readonly leaving: readonly Strand[];
}

let last: NetworkIndex | undefined;
/** The index of the open board, made once per edit for all cards. */
export const indexBoard = (document: NetworkDocument, board: BoardId): NetworkIndex =>
  (last = indexNetwork(getNetwork(document, board), last));

const NONE: readonly Strand[] = [];

/** The board that is open: null for the material's own. It changes only when another is opened. */
export function useBoardId(): BoardId {
  const path = useView((state) => state.path);
  return useDocument((state) => boardAt(state.document, path));
}

/** A card's part of the document; it is drawn again only when that changes. */
export function useCard(nodeId: string): CardView {
  const board = useBoardId();
  return useDocument(
    useShallow(({ document }) => {
      const { nodes, arriving, leaving } = indexBoard(document, board);
      const node = nodes.get(nodeId);
      return {
        node,
        group: (node && findGroupDefinition(document, node)) ?? null,
        arriving: arriving.get(nodeId) ?? NONE,
        leaving: leaving.get(nodeId) ?? NONE,
      };
    }),
  );
}

/**
 * What dials do to a node's values, one line a drive in the order of the front: the dial's name,
 * and how the value comes about where that is a number.
 */
export function useCardDials(nodeId: string): readonly string[] {
  const board = useBoardId();
  const path = useView((state) => state.path);
  return useDocument(
    useShallow(({ document }) => {
      const group = board === null ? undefined : own(document.groups, board);
      return group ? driveLines(document, group, nodeId, findNode(document, path)) : [];
    }),
  );
}

/** Something of a board's index; whoever asks is drawn again only when that changes. */
export const useBoardIndex = <T>(board: BoardId, pick: (index: NetworkIndex) => T): T =>
  useDocument(({ document }) => pick(indexBoard(document, board)));
