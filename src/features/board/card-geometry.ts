import { Position } from '@xyflow/react';
import type { NodeHandle } from '@xyflow/react';
import { own } from '@/core/base/own';
import { findNodeDefinition } from '@/core/compile/catalogue';
import type { PortsView } from '@/core/compile/catalogue';
import type { InputValue, NodeInstance } from '@/core/graph/document';
import type { PortKind } from '@/core/nodes/define';
import type { CardPorts } from './card-ports';

/*
 * The places of everything on a card, in pixels of the board: the drawing library knows cards and
 * their ports by these before, and without, their being drawn.
 */
/** Side of a card's picture. */
export const PICTURE = 124;
export const CARD_WIDTH = PICTURE + 8;
const FOLDED_PICTURE = 60;
const PORT = 13;
const BORDER = 1;
const TITLE = 18;
const RANGE = 18;
const LINE = 14;
const DIAL = 18;

export const pictureHeight = (node: NodeInstance): number =>
  node.folded ? FOLDED_PICTURE : PICTURE;

/** Ports stand so far apart at the least that a hand that aims at one does not meet the next. */
export const LEAST_PITCH = 16;
const FIRST_PORT = 12;
/** How far ports of a card stand apart that has so many on one side. */
const portPitch = (count: number, isFolded: boolean): number =>
  isFolded ? LEAST_PITCH : Math.max(LEAST_PITCH, 106 / Math.max(1, count - 1));
/** How far down the card the k-th of so many ports stands. */
export const portTop = (count: number, k: number, isFolded = false): number =>
  count === 1 ? (isFolded ? 30 : 62) : FIRST_PORT + k * portPitch(count, isFolded);
/** The same for those that stand aside. */
export const asideTop = (k: number): number => (k + 0.5) * LEAST_PITCH - 10;
export const ASIDE_LEFT = -16;

/** A value in use that a card shows. */
export interface CardLine {
  readonly id: string;
  readonly title: string;
  readonly kind: PortKind;
  readonly value: InputValue;
}
/** The few lines of words under a card's picture. */
export interface CardLines {
  /** The only choice of a node that has one, in words. */
  readonly choice: string | null;
  readonly typed: readonly CardLine[];
}

export function cardLines(node: NodeInstance, ports: PortsView | null): CardLines {
  const [only, ...more] = Object.entries(findNodeDefinition(node)?.options ?? {});
  const choice =
    only && more.length === 0
      ? only[1].choices.find(
          (each) => each.value === (own(node.options, only[0]) ?? only[1].default),
        )
      : undefined;
  const typed = Object.entries(node.values).flatMap(([id, value]) => {
    const port = ports?.inputs.find((each) => each.id === id);
    return port ? [{ id, title: port.title, kind: port.kind, value }] : [];
  });
  return { choice: choice?.title ?? null, typed: typed.slice(0, 2) };
}

/**
 * As high as what it shows, and as its ports need.
 * @param dials how many of the group's drive values of the node
 */
export function cardHeight(
  node: NodeInstance,
  lines: CardLines,
  dials: number,
  { inputs, outputs }: CardPorts,
): number {
  const most = Math.max(inputs.length, outputs.length);
  const ports = most > 1 ? portTop(most, most - 1, node.folded) + FIRST_PORT : 0;
  return Math.max(shownHeight(node, lines, dials), ports);
}

function shownHeight(node: NodeInstance, lines: CardLines, dials: number): number {
  const top = 2 * BORDER + pictureHeight(node) + 8 + TITLE;
  if (node.folded) return top;
  const words = (lines.choice === null ? 0 : LINE) + lines.typed.length * LINE + dials * DIAL;
  return top + RANGE + words + (words > 0 ? 4 : 0);
}

const handle = (
  id: string,
  end: 'source' | 'target',
  [x, y]: readonly [number, number],
): NodeHandle => ({
  id,
  type: end,
  position: end === 'target' ? Position.Left : Position.Right,
  x: x - PORT / 2,
  y: y - PORT / 2,
  width: PORT,
  height: PORT,
});

/** Where the ports of a card are. */
export const cardHandles = (
  { inputs, aside, outputs }: CardPorts,
  isFolded = false,
): NodeHandle[] => [
  ...inputs.map(({ id }, k) =>
    handle(id, 'target', [BORDER, BORDER + portTop(inputs.length, k, isFolded)]),
  ),
  ...aside.map(({ id }, k) => handle(id, 'target', [BORDER + ASIDE_LEFT, BORDER + asideTop(k)])),
  ...outputs.map(({ id }, k) =>
    handle(id, 'source', [CARD_WIDTH - BORDER, BORDER + portTop(outputs.length, k, isFolded)]),
  ),
];
