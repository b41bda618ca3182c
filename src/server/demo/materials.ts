import type { NetworkDocument } from '@/core/graph/document';
import { verdigris } from '@/server/demo/bell-bronze';
import { paintedTin } from '@/server/demo/painted-tin';
import { quayStone } from '@/server/demo/quay-stone';
import { stoneware } from '@/server/demo/stoneware';

export interface DemoMaterial {
  readonly id: string;
  readonly model: string;
  readonly document: () => NetworkDocument;
}

export const DEMO_MATERIALS: readonly DemoMaterial[] = [
  { id: 'demo-painted-tin', model: 'demo-buoy', document: paintedTin },
  { id: 'demo-bell-bronze', model: 'demo-bell', document: verdigris },
  { id: 'demo-quay-stone', model: 'demo-quay', document: quayStone },
  { id: 'demo-stoneware', model: 'demo-tile', document: stoneware },
];
