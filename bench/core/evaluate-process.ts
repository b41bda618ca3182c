/**
 * One process of the benchmark: evaluates the fixed network, or bakes strips of it, when told to.
 */
import { prepareBake, prepareEvaluation, timed } from './evaluate';
import { benchNetwork } from './network';
import { MeshKernel } from '@/core/mesh/mesh-kernel';
import { OCCLUSION_SIDE, bumpyTorus, torusRays } from '../models/occlusion';

export type Order =
  | { readonly task: 'evaluate'; readonly times: number }
  | { readonly task: 'strip' | 'points'; readonly row: number }
  | { readonly task: 'pack'; readonly strip: number }
  | { readonly task: 'texels' }
  | { readonly task: 'rays' };

const run = prepareEvaluation(benchNetwork());
const bake = await prepareBake();
let rays: { readonly kernel: MeshKernel; readonly list: Float32Array } | null = null;
/** Milliseconds of the occlusion rays of the smaller torus. */
function castAll(): number {
  const torus = bumpyTorus(OCCLUSION_SIDE);
  rays ??= { kernel: new MeshKernel(torus), list: torusRays(OCCLUSION_SIDE, torus) };
  const { kernel, list } = rays;
  return timed(() => kernel.countMet(list));
}

function obey(order: Order): number {
  switch (order.task) {
    case 'evaluate':
      return timed(() => {
        for (let k = 0; k < order.times; k++) run();
      });
    case 'strip':
      bake.strip(order.row);
      return 0;
    case 'points':
      bake.points(order.row);
      bake.strip(order.row);
      return 0;
    case 'pack':
      bake.pack(order.strip);
      return 0;
    case 'texels':
      return bake.texels();
    case 'rays':
      return castAll();
  }
}
process.on('message', (order: Order) => {
  process.send?.(obey(order));
});
process.send?.('ready');
