import type { Block, Value } from '../../ir/types';

/** The values that stand for what a loop or a call gives, looked for once in each block. */
export class BlockResults {
  private readonly blocks = new Map<Block, ReadonlyMap<Value, readonly Value[]>>();

  /** @param maker a loop or a call */
  of(maker: Value): readonly Value[] {
    const known = this.blocks.get(maker.block) ?? gather(maker.block);
    this.blocks.set(maker.block, known);
    return known.get(maker) ?? [];
  }
}

function gather(block: Block): ReadonlyMap<Value, readonly Value[]> {
  const results = new Map<Value, Value[]>();
  for (const value of block.values) {
    const [maker] = value.args;
    if (!maker || (value.operation !== 'loopResult' && value.operation !== 'callResult')) continue;
    const list = results.get(maker);
    if (list) list.push(value);
    else results.set(maker, [value]);
  }
  return results;
}
