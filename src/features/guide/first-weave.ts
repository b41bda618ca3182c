import { findNodeDefinition } from '@/core/compile/catalogue';
import { OUTPUT_EDGE } from '@/core/graph/document';
import type { NetworkDocument } from '@/core/graph/document';
import type { Family } from '@/core/nodes/define';

/** What has been done so far, by what the material and the stage show. */
export interface Woven {
  readonly document: NetworkDocument;
  readonly isPinned: boolean;
}
/** A step of the guide; it is done when the material shows it. */
export interface GuideStep {
  readonly title: string;
  readonly how: string;
  readonly isDone: (woven: Woven) => boolean;
}

const hasFamily = ({ network }: NetworkDocument, ...families: readonly Family[]): boolean =>
  network.nodes.some((node) => {
    const family = findNodeDefinition(node)?.family;
    return family !== undefined && families.includes(family);
  });

/** Whether some node of a family has a strand that comes in. */
const isFed = ({ network }: NetworkDocument, family: Family): boolean =>
  network.nodes.some(
    (node) =>
      findNodeDefinition(node)?.family === family &&
      network.strands.some(({ to }) => to.node === node.id),
  );

/** From an empty board to a group of one's own. */
export const FIRST_WEAVE: readonly GuideStep[] = [
  {
    title: 'Place a source',
    how: 'Point at the board and type “noise”; Enter adds it there.',
    isDone: ({ document }) => hasFamily(document, 'patterns', 'model'),
  },
  {
    title: 'Look at it alone',
    how: 'Press the pin on its card: its values stand on the model, flat.',
    isDone: ({ isPinned }) => isPinned,
  },
  {
    title: 'Shape it to a mask',
    how: 'Type “smoothstep”, and drag from Value of the noise to Value of the new card.',
    isDone: ({ document }) => isFed(document, 'ranges'),
  },
  {
    title: 'Make it a colour',
    how: 'Drag from its Mask to a free place, type “ramp”, and drag the stops of the ramp.',
    isDone: ({ document }) => isFed(document, 'gradients'),
  },
  {
    title: 'Put it on the model',
    how: 'Drag from Colour, type “surface”, then its Surface to the selvedge at the right.',
    isDone: ({ document }) => document.network.strands.some(({ to }) => to.node === OUTPUT_EDGE),
  },
  {
    title: 'Package it',
    how: 'Draw a box around the cards and press Ctrl+G: a group with a front of its own.',
    isDone: ({ document }) => Object.keys(document.groups).length > 0,
  },
];

/** The first step that is not done and not passed over; the number of steps where all are. */
export function nextStep(woven: Woven, reached: number): number {
  for (let k = reached; k < FIRST_WEAVE.length; k++) if (!FIRST_WEAVE[k]?.isDone(woven)) return k;
  return FIRST_WEAVE.length;
}
