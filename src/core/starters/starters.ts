import type { Starter } from './define';
import { bellBronze } from './bell-bronze.starter';
import { deckPlanks } from './deck-planks.starter';
import { floatSet } from './float-set.starter';
import { lanternBrass } from './lantern-brass.starter';
import { paintedTin } from './painted-tin.starter';
import { quayStone } from './quay-stone.starter';
import { sailcloth } from './sailcloth.starter';
import { seaGlass } from './sea-glass.starter';
import { stoneware } from './stoneware.starter';
import { storybook } from './storybook.starter';
import { tarredRope } from './tarred-rope.starter';
import { tideLine } from './tide-line.starter';

/** All starters, in the order they are offered. */
export const STARTERS: readonly Starter[] = [
  paintedTin,
  bellBronze,
  tideLine,
  seaGlass,
  storybook,
  quayStone,
  floatSet,
  tarredRope,
  lanternBrass,
  stoneware,
  deckPlanks,
  sailcloth,
];
