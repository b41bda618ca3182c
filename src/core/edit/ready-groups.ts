import type { NetworkDocument } from '../graph/document';
import { freshId } from './board';
import type { BoardId } from './board';
import { addNode } from './nodes';
import type { ReadyGroup } from './ready/define';
import { colourFromHeight } from './ready/colour-from-height.ready';
import { creviceDirt } from './ready/crevice-dirt.ready';
import { edgeWear } from './ready/edge-wear.ready';
import { maskTightener } from './ready/mask-tightener.ready';
import { paletteSteps } from './ready/palette-steps.ready';
import { regionMask } from './ready/region-mask.ready';
import { slopePair } from './ready/slope-pair.ready';
import { tideLine } from './ready/tide-line.ready';
import { toneCutThree } from './ready/tone-cut-three.ready';
import { toneCutTwo } from './ready/tone-cut-two.ready';
import { topDust } from './ready/top-dust.ready';

/** Chains that artists build again and again, ready to be used, in the order of work. */
export const READY_GROUPS: readonly ReadyGroup[] = [
  maskTightener,
  edgeWear,
  creviceDirt,
  topDust,
  slopePair,
  regionMask,
  toneCutTwo,
  toneCutThree,
  tideLine,
  paletteSteps,
  colourFromHeight,
];

/** Adds a ready chain as a group of the document; one that is there already is used again. */
export function addReadyGroup(
  document: NetworkDocument,
  board: BoardId,
  name: string,
  at: readonly [number, number],
): { document: NetworkDocument; id: string } {
  const chosen = READY_GROUPS.find((each) => each.name === name);
  if (!chosen) throw new Error(`Invariant broken: there is no ready group ${name}`);
  const same = Object.values(document.groups).find(
    ({ id: _id, ...rest }) => JSON.stringify(rest) === JSON.stringify(chosen.definition),
  );
  const groupId = same?.id ?? freshId('g', new Set(Object.keys(document.groups)));
  const holding = same
    ? document
    : {
        ...document,
        groups: { ...document.groups, [groupId]: { ...chosen.definition, id: groupId } },
      };
  return addNode(holding, board, 'group', at, groupId);
}
