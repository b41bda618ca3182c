/** One process of the benchmark: evaluates the fixed network, or bakes strips of it, when told to. */
import { prepareBake, prepareEvaluation, timed } from './evaluate';
import { benchNetwork } from './network';

export type Order = { readonly task: 'evaluate'; readonly times: number } | { readonly task: 'strip' | 'points'; readonly row: number } | { readonly task: 'pack'; readonly strip: number } | { readonly task: 'texels' };

const run = prepareEvaluation(benchNetwork());
const bake = await prepareBake();
function obey(order: Order): number {
  switch (order.task) {
    case 'evaluate': return timed(() => { for (let k = 0; k < order.times; k++) run(); });
    case 'strip': bake.strip(order.row); return 0;
    case 'points': bake.points(order.row); bake.strip(order.row); return 0;
    case 'pack': bake.pack(order.strip); return 0;
    case 'texels': return bake.texels();
  }
}
process.on('message', (order: Order) => { process.send?.(obey(order)); });
process.send?.('ready');
