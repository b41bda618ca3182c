import { passesOn } from '../core/compile/bypass';
import { describePorts } from '../core/compile/catalogue';
import { changeNode, getNetwork } from '../core/edit/board';
import { complementInput, maskInput } from '../core/edit/complement';
import { exchangeNode, swapInputs } from '../core/edit/exchange';
import type { Replacement } from '../core/edit/exchange';
import { findListChain, repeatChain } from '../core/edit/repeat';
import { addTwin, partTwin } from '../core/edit/twins';
import type { NetworkDocument, NodeInstance } from '../core/graph/document';
import { commit, currentBoard, frameSelection, select } from './editing';
import { stores } from './stores';
import { tellChange } from './tell-change';

const openDocument = (): NetworkDocument => stores.document.getState().document;
const findNode = (id: string): NodeInstance | undefined =>
  getNetwork(openDocument(), currentBoard()).nodes.find((each) => each.id === id);

/** Puts nodes out of action, or all of them back where each of them is out already. */
export function toggleOff(ids: readonly string[]): void {
  const nodes = ids.flatMap((id) => findNode(id) ?? []);
  if (nodes.length === 0) return;
  const isOff = nodes.every(({ off }) => off);
  const words = nodes.length === 1 ? 'A node is' : `${String(nodes.length)} nodes are`;
  const isSource = nodes.every((node) => {
    const ports = describePorts(openDocument(), node);
    return ports !== null && !passesOn(node, ports, getNetwork(openDocument(), currentBoard()));
  });
  const does = isSource ? 'what it fed goes on without it' : 'passes on what comes in';
  commit(isOff ? 'Switched on' : 'Switched off', (document, board) =>
    nodes.reduce(
      (current, { id }) =>
        changeNode(current, board, id, ({ off: _off, ...node }) =>
          isOff ? node : { ...node, off: true },
        ),
      document,
    ),
  );
  tellChange(isOff ? `${words} on again` : `${words} off${isSource ? ': ' : ' and '}${does}`);
}

/** Waits for a choice of what a node is exchanged for. */
export const askExchange = (id: string): void => {
  stores.view.setState({ exchanging: id });
};

/** Puts another node in the place of one. */
export function exchange(id: string, to: Replacement, title: string): void {
  let words = '';
  commit(`Exchanged a node for ${title}`, (document, board) => {
    const made = exchangeNode(document, board, id, to);
    if (!made) return document;
    const kept = `${String(made.kept)} ${made.kept === 1 ? 'strand' : 'strands'} kept`;
    words = made.lost === 0 ? kept : `${kept}, ${String(made.lost)} found no place`;
    if (made.unkept.length > 0) words += `; not kept: ${made.unkept.join(', ')}`;
    return made.document;
  });
  if (words !== '') tellChange(`Exchanged for ${title}: ${words}`);
}

/** Lets two inputs change places; with its mask complemented, the look stays. */
export function swap(id: string, pair: readonly [string, string], complement: boolean): void {
  const node = findNode(id);
  const mask = node && maskInput(openDocument(), node);
  commit('Swapped two inputs', (document, board) => {
    const swapped = swapInputs(document, board, id, pair);
    return complement && mask !== undefined ? complementInput(swapped, board, id, mask) : swapped;
  });
  tellChange(complement ? 'Swapped two inputs, the mask complemented' : 'Swapped two inputs');
}

/** Adds a card for the same node: fed alike, edited together. */
export function linkCopy(id: string): void {
  let copy = '';
  commit('Added a linked copy', (document, board) => {
    const made = addTwin(document, board, id);
    copy = made?.id ?? '';
    return made?.document ?? document;
  });
  if (copy) select([copy]);
}

/** From now on the node is edited alone. */
export function unlinkCopy(id: string): void {
  commit('Parted a linked copy', (document, board) => partTwin(document, board, id));
  tellChange('This node is edited alone now');
}

/** Repeats the chain that ends in a list with what is chosen. @returns why it cannot be */
export function repeatAsList(ids: readonly string[], count: number): string | null {
  const chain = findListChain(openDocument(), currentBoard(), ids);
  if (!chain)
    return (
      'What is chosen ends in no list. Wire its end into an input that takes many, such as that ' +
      'of Union or Nearest of, and choose it again.'
    );
  const { model } = stores.stage.getState();
  const on = { parts: model?.parts ?? [], box: model?.scale ?? null };
  let made: readonly string[] = [];
  commit(`Repeated a chain ${String(count)} times`, (document, board) => {
    const repeated = repeatChain(document, board, chain, count, on);
    made = repeated.ids;
    return repeated.document;
  });
  if (made.length > 0) {
    select([...chain.ids, ...made]);
    frameSelection();
    tellChange(`The chain is there ${String(count)} times, all in one list`);
  }
  return null;
}
