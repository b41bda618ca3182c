import { boardAt, getNetwork } from '../core/edit/board';
import { setAmount, setDialAmount, settleAmount, settleDial } from '../core/edit/amounts';
import type { NodeId } from '../core/base/ids';
import { commit } from './editing';
import { stores } from './stores';

/** What an overall amount is set on: a node, or a dial of a card; by the nodes that lead there. */
export interface AmountPlace {
  readonly path: readonly NodeId[];
  readonly dial?: string | undefined;
}

const boardOf = (path: readonly NodeId[]): string | null =>
  boardAt(stores.document.getState().document, path.slice(0, -1));
const idOf = (path: readonly NodeId[]): string => path.at(-1) ?? '';

/** Changes an amount, as one step for a drag; null takes it away. */
export function changeAmount(
  { path, dial }: AmountPlace,
  amount: number | null,
  gesture: string | null = null,
): void {
  const board = boardOf(path);
  const words = amount === null ? 'Took an amount away' : 'Set an overall amount';
  commit(
    words,
    (document) =>
      dial === undefined
        ? setAmount(document, board, idOf(path), amount)
        : setDialAmount(document, board, idOf(path), dial, amount),
    gesture,
  );
}

/** Makes the amount part of the values; the look stays. */
export function settleHere({ path, dial }: AmountPlace): void {
  const board = boardOf(path);
  commit('Settled an amount', (document) =>
    dial === undefined
      ? settleAmount(document, board, idOf(path))
      : settleDial(document, board, idOf(path), dial),
  );
}

/** Gives a node of the open board an overall amount of all, where it has none. */
export function beginAmount(id: NodeId): void {
  const { path } = stores.view.getState();
  const { document } = stores.document.getState();
  const node = getNetwork(document, boardAt(document, path)).nodes.find((each) => each.id === id);
  if (node && node.amount === undefined) changeAmount({ path: [...path, id] }, 1);
}
