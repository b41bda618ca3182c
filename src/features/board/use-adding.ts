'use client';
import { useReactFlow } from '@xyflow/react';
import { useCallback, useRef, useState } from 'react';
import { own } from '@/core/base/own';
import { findDefinition } from '@/core/compile/catalogue';
import { addBend, addNote, addRegion } from '@/core/edit/marks';
import { addEmptyGroup } from '@/core/edit/group-ports';
import { addNode } from '@/core/edit/nodes';
import { addReadyGroup } from '@/core/edit/ready-groups';
import { insertIntoStrand } from '@/core/edit/strands';
import type { BoardId, NetworkDocument } from '@/core/graph/document';
import { commit, select } from '@/state/editing';
import { placeEntry } from '@/state/placing';
import type { PlacedEntry } from '@/state/placing';
import { stores } from '@/state/stores';
import { tellProblem } from '@/ui/tell-problem';
import { joinOpenEnd, strandEnds } from './board-strands';
import type { OpenEnd } from './board-strands';
import type { PaletteChoice } from './NodePalette';

/** The search for something to add: where it stands, and what it is to be wired to. */
export interface PaletteState {
  readonly x: number;
  readonly y: number;
  readonly initial: string;
  readonly open: OpenEnd | null;
}
type Place = readonly [number, number];

function addChosen(
  document: NetworkDocument,
  board: BoardId,
  choice: Exclude<PaletteChoice, { note: true } | { region: true } | { entry: PlacedEntry }>,
  at: Place,
): { readonly document: NetworkDocument; readonly id: string } {
  if ('emptyGroup' in choice) return addEmptyGroup(document, board, at);
  return 'ready' in choice
    ? addReadyGroup(document, board, choice.ready, at)
    : addNode(document, board, choice.type, at, choice.group, choice.options);
}

/** Places a group of the library where the pointer was, wired as a node would be. */
function placeFromLibrary(entry: PlacedEntry, at: Place, open: OpenEnd | null): void {
  const strand = stores.view.getState().chosenStrand;
  placeEntry(entry, at, (document, board, id) => {
    if (open) return joinOpenEnd(document, id, open);
    return strand ? insertIntoStrand(document, board, strand, id) : document;
  }).catch(tellProblem);
}

/** Adds what was chosen at a place of the board, as one step, and selects it. */
function place(choice: PaletteChoice, at: Place, open: OpenEnd | null): void {
  if ('entry' in choice) {
    placeFromLibrary(choice.entry, at, open);
    return;
  }
  if ('note' in choice)
    return commit('Added a note', (current, board) => addNote(current, board, at, ''));
  if ('region' in choice)
    return commit('Added a region', (current, board) =>
      addRegion(current, board, at, [360, 260], 'Region'),
    );
  const strand = stores.view.getState().chosenStrand;
  let id = '';
  const { groups } = stores.document.getState().document;
  const group = 'type' in choice ? own(groups, choice.group ?? '') : undefined;
  const title = 'type' in choice ? (group?.name ?? findDefinition(choice.type)?.title) : undefined;
  commit(
    `Added ${title ?? ('ready' in choice ? 'a ready group' : 'an empty group')}`,
    (current, board) => {
      const added = addChosen(current, board, choice, at);
      id = added.id;
      if (open) return joinOpenEnd(added.document, id, open);
      return strand ? insertIntoStrand(added.document, board, strand, id) : added.document;
    },
  );
  if (id) select([id]);
}

/** The palette of what can be added, and bends put into strands, where the pointer is. */
export function useAdding(host: React.RefObject<HTMLDivElement | null>) {
  const flow = useReactFlow();
  const pointer = useRef({ x: 0, y: 0 });
  const [palette, setPalette] = useState<PaletteState | null>(null);
  const choose = (choice: PaletteChoice): void => {
    const { x, y, open } = palette ?? { x: 0, y: 0, open: null };
    setPalette(null);
    const on = flow.screenToFlowPosition({ x, y });
    place(choice, [Math.round(on.x), Math.round(on.y)], open);
    host.current?.focus();
  };
  const bend = useCallback(
    (event: React.MouseEvent, strand: string): void => {
      const { x, y } = flow.screenToFlowPosition({ x: event.clientX, y: event.clientY });
      const ends = strandEnds(
        flow.getNodes(),
        flow.getEdges().find((edge) => edge.id === strand),
      );
      commit('Bent a strand', (current, board) =>
        addBend(current, board, strand, [Math.round(x), Math.round(y)], ends),
      );
    },
    [flow],
  );
  const follow = (event: React.PointerEvent): void => {
    pointer.current = { x: event.clientX, y: event.clientY };
  };
  return { pointer, follow, palette, setPalette, choose, bend };
}
