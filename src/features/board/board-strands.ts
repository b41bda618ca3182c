import type { Connection, Edge, Node } from '@xyflow/react';
import { toast } from 'sonner';
import { describePorts, mayConnect } from '@/core/compile/catalogue';
import { outputQuantity } from '@/core/compile/quantities';
import { getNetwork } from '@/core/edit/board';
import { landingInput } from '@/core/edit/landing';
import { isBend } from '@/core/edit/marks';
import type { Place } from '@/core/edit/marks';
import { NEW_PORT, leadIn, leadOut } from '@/core/edit/group-ports';
import { canConnect, connect, inputKind, outputKind } from '@/core/edit/strands';
import { INPUT_EDGE, OUTPUT_EDGE } from '@/core/graph/document';
import type { BoardId, NetworkDocument, ValueKind } from '@/core/graph/document';
import { outputKey } from '@/core/graph/result-key';
import { TYPED_ONLY } from '@/core/nodes/define';
import type { PortKind } from '@/core/nodes/define';
import type { Quantity } from '@/core/nodes/quantities';
import { commit, currentBoard } from '@/state/editing';
import { stores } from '@/state/stores';
import { BEND } from './board-elements';

/** The end of a strand that was let go over nothing, and which end is wanted. */
export interface OpenEnd {
  readonly node: string;
  readonly port: string;
  readonly kind: PortKind;
  /** What leaves an output stands for, as far as that is known. */
  readonly quantity?: Quantity | undefined;
  readonly end: 'input' | 'output';
}

/** What an output of no fixed kind gives as the network stands; a number where that is unknown. */
function kindNow(node: string, output: string): PortKind {
  const key = outputKey([...stores.view.getState().path, node], output);
  return stores.results.getState().kinds.get(key) ?? 'scalar';
}

/** The open end of a strand that begins at a port; null where the port is none. */
export function openEndAt(
  document: NetworkDocument,
  node: string,
  port: string,
  type: 'source' | 'target',
): OpenEnd | null {
  const at = currentBoard();
  const kind =
    type === 'source'
      ? outputKind(document, at, { node, output: port })
      : inputKind(document, at, { node, input: port });
  if (!kind) return null;
  if (type === 'target') return { node, port, kind, end: 'output' };
  const from = { node, output: port };
  const quantity = outputQuantity(document, getNetwork(document, at), from);
  return { node, port, kind: kind === 'flex' ? kindNow(node, port) : kind, quantity, end: 'input' };
}

/** Whether a strand may be laid as the drawing library proposes. */
export function isFitting(
  document: NetworkDocument,
  board: BoardId,
  { source, sourceHandle, target, targetHandle }: Connection | Edge,
): boolean {
  if (sourceHandle == null || targetHandle == null) return false;
  if (board !== null && sourceHandle === NEW_PORT)
    return mayLeadIn(document, board, target, targetHandle);
  if (board !== null && targetHandle === NEW_PORT) return source !== INPUT_EDGE;
  const from = { node: source, output: sourceHandle };
  return canConnect(document, board, from, { node: target, input: targetHandle });
}

/** Whether an input may be led to the left edge: all but those that are typed only. */
function mayLeadIn(
  document: NetworkDocument,
  board: NonNullable<BoardId>,
  node: string,
  input: string,
): boolean {
  const kind = node === OUTPUT_EDGE ? undefined : inputKind(document, board, { node, input });
  return kind !== undefined && !TYPED_ONLY.has(kind);
}

/** Lays a strand as the drawing library proposes; one to an edge makes a port there. */
export function layProposed(
  document: NetworkDocument,
  board: BoardId,
  { source, sourceHandle, target, targetHandle }: Connection,
  kind: ValueKind | undefined,
): NetworkDocument {
  if (!sourceHandle || !targetHandle) return document;
  const [from, to] = [
    { node: source, output: sourceHandle },
    { node: target, input: targetHandle },
  ];
  if (board !== null && sourceHandle === NEW_PORT) return leadIn(document, board, to);
  if (board !== null && targetHandle === NEW_PORT) return leadOut(document, board, from, kind);
  return connect(document, board, from, to);
}

/** Lights up the ports a strand may go to, by class names on their elements. */
export function markFitting(
  host: HTMLElement,
  document: NetworkDocument,
  from: OpenEnd | null,
): void {
  host.classList.toggle('connecting', from !== null);
  const board = currentBoard();
  for (const port of host.querySelectorAll<HTMLElement>('.port')) {
    const node = port.dataset['nodeid'] ?? '';
    const id = port.dataset['handleid'] ?? '';
    const isInput = port.classList.contains('target');
    const fits =
      from !== null &&
      isInput === (from.end === 'input') &&
      (from.end === 'input'
        ? canConnect(document, board, { node: from.node, output: from.port }, { node, input: id })
        : canConnect(document, board, { node, output: id }, { node: from.node, input: from.port }));
    port.classList.toggle('fits', fits);
  }
}

/** Wires a node to an open end: by the input where it belongs, or the first output that fits. */
export function joinOpenEnd(document: NetworkDocument, id: string, open: OpenEnd): NetworkDocument {
  const board = currentBoard();
  const node = getNetwork(document, board).nodes.find((each) => each.id === id);
  const ports = node && describePorts(document, node);
  if (open.end === 'input') {
    const input = node && landingInput(document, getNetwork(document, board), node, open);
    const from = { node: open.node, output: open.port };
    return input ? connect(document, board, from, { node: id, input }) : document;
  }
  const output = ports?.outputs.find((port) => mayConnect(port.kind, open.kind));
  const to = { node: open.node, input: open.port };
  return output ? connect(document, board, { node: id, output: output.id }, to) : document;
}

/** Where something stands in the document, by where its mark's corner is drawn. */
export function placeOf(id: string, { x, y }: { readonly x: number; readonly y: number }): Place {
  const half = isBend(id) ? BEND / 2 : 0;
  return [Math.round(x + half), Math.round(y + half)];
}

/** Roughly where a strand begins and ends: beside its two nodes. */
export function strandEnds(
  nodes: readonly Node[],
  edge: Edge | undefined,
): readonly [Place, Place] {
  const [start, end] = [
    nodes.find((node) => node.id === edge?.source),
    nodes.find((node) => node.id === edge?.target),
  ];
  return [
    [(start?.position.x ?? 0) + (start?.measured?.width ?? 0), (start?.position.y ?? 0) + 60],
    [end?.position.x ?? 0, (end?.position.y ?? 0) + 60],
  ];
}

/** The card under a place on the screen. */
export const cardAt = ({
  clientX,
  clientY,
}: {
  readonly clientX: number;
  readonly clientY: number;
}): string | null =>
  window.document
    .elementFromPoint(clientX, clientY)
    ?.closest('.react-flow__node-card')
    ?.getAttribute('data-id') ?? null;

/** A strand let go over a card goes where it belongs there. @returns whether there was a card */
export function landOn(card: string | null, open: OpenEnd): boolean {
  if (card === null || card === open.node) return false;
  const before = stores.document.getState().document;
  commit('Connected a strand', (current) => joinOpenEnd(current, card, open));
  if (stores.document.getState().document === before)
    toast('The strand fits nowhere on that card, or would close a circle.');
  return true;
}
