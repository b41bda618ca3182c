'use client';
import { useStore } from 'zustand';
import { own } from '../core/base/own';
import { getNetwork } from '../core/edit/board';
import type { BoardId, GroupDefinition, Network, NetworkDocument } from '../core/graph/document';
import { boardAt } from '../core/edit/board';
import { stores } from './stores';
import type {
  DocumentState,
  MeasuringState,
  ProbeState,
  ResultState,
  SavingState,
  ViewState,
} from './stores';
import type { StageState } from './stage-state';

export const useDocument = <T>(selector: (state: DocumentState) => T): T =>
  useStore(stores.document, selector);
export const useView = <T>(selector: (state: ViewState) => T): T => useStore(stores.view, selector);
export const useSaving = <T>(selector: (state: SavingState) => T): T =>
  useStore(stores.saving, selector);
export const useResults = <T>(selector: (state: ResultState) => T): T =>
  useStore(stores.results, selector);
export const useStage = <T>(selector: (state: StageState) => T): T =>
  useStore(stores.stage, selector);
export const useProbe = <T>(selector: (state: ProbeState) => T): T =>
  useStore(stores.probe, selector);
export const useMeasuring = <T>(selector: (state: MeasuringState) => T): T =>
  useStore(stores.measuring, selector);

export interface ShownBoard {
  readonly document: NetworkDocument;
  readonly path: readonly string[];
  readonly board: BoardId;
  readonly network: Network;
  /** The group whose board it is; null for the material's own. */
  readonly group: GroupDefinition | null;
}

/** The board that is shown. */
export function useBoard(): ShownBoard {
  const document = useDocument((state) => state.document);
  const path = useView((state) => state.path);
  const board = boardAt(document, path);
  const group = board === null ? null : (own(document.groups, board) ?? null);
  return { document, path, board, network: getNetwork(document, board), group };
}

/** The group whose board is open; null on the material's own. Followed alone, not the document. */
export function useOpenGroup(): GroupDefinition | null {
  const path = useView((state) => state.path);
  return useDocument(({ document }) => {
    const board = boardAt(document, path);
    return board === null ? null : (own(document.groups, board) ?? null);
  });
}
