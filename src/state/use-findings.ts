'use client';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { wayTo } from '../core/graph/finding-place';
import { findFaultCure } from '../core/edit/fault-cures';
import type { FindingsState, PlacedFinding } from './findings-state';
import { commit, goTo } from './editing';
import { stores } from './stores';
import { useBoardId } from './use-card';

export const useFindings = <T>(selector: (state: FindingsState) => T): T =>
  useStore(stores.findings, selector);

/** The findings of the board shown that a test lets through; steady while they stay the same. */
export function useBoardFindings(
  isMeant: (finding: PlacedFinding) => boolean,
): readonly PlacedFinding[] {
  const board = useBoardId();
  return useFindings(
    useShallow(({ findings }) =>
      findings.filter((finding) => finding.place.board === board && isMeant(finding)),
    ),
  );
}

/**
 * What is found at a card: at its node, its values and choices, and at strands that end in it; at
 * the card of a group also what is found inside the group.
 */
export function useCardFindings(
  nodeId: string,
  group: string | undefined,
): readonly PlacedFinding[] {
  const board = useBoardId();
  return useFindings(
    useShallow(({ findings }) =>
      findings.filter(
        ({ place }) =>
          (place.board === board && place.node === nodeId) ||
          (group !== undefined && (place.group === group || place.board === group)),
      ),
    ),
  );
}

/** Goes to what a finding is about: its board, its card or strand; the rest shows itself there. */
export function goToFinding(finding: PlacedFinding): void {
  const { document } = stores.document.getState();
  const { board, node, strand } = finding.place;
  const way = wayTo(document, board);
  if (way === null) return;
  goTo(way, { ...(node === undefined ? {} : { node }), strand: strand ?? null });
  stores.findings.setState({ shown: finding });
}

/** The words on the button that is rid of a finding; null where only a person can decide. */
export const cureTitle = (finding: PlacedFinding): string | null =>
  findFaultCure(finding, finding.place)?.title ?? null;

/** Is rid of a finding, as one step that can be undone. */
export function cureFinding(finding: PlacedFinding): void {
  const cure = findFaultCure(finding, finding.place);
  if (cure) commit(cure.title, cure.apply);
}

/** Opens or closes the list of what is wrong with the document. */
export const openFindings = (isListOpen: boolean): void => {
  stores.findings.setState({ isListOpen });
};
