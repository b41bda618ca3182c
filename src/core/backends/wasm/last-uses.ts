import type { Liveness } from '../../ir/liveness';
import type { Block, Value } from '../../ir/types';

/** Which values of a block are used for the last time where, so that their locals serve others. */
export class LastUses {
  private readonly last = new Map<Value, number>();
  private readonly ending: Value[][] = [];
  private readonly sums = new Map<Value, number>();

  /** @param kept values that are used after the block */
  constructor(
    private readonly block: Block,
    private readonly liveness: Liveness,
    kept: readonly Value[],
  ) {
    block.values.forEach((value, place) => {
      if (liveness.isLive(value) && !liveness.isInline(value)) this.visit(value, place);
    });
    for (const value of kept) this.use(value, Infinity);
    for (const [value, place] of this.last)
      if (place !== Infinity) (this.ending[place] ??= []).push(value);
  }

  /** The values that nothing after this place of the block uses. */
  at(place: number): readonly Value[] {
    return this.ending[place] ?? [];
  }

  /** What is emitted at a place uses its operands there, and all that a loop's body uses. */
  private visit(value: Value, place: number): void {
    for (const arg of value.args) this.use(arg, place);
    if (!value.body) return;
    // Those written in place are visited where they are used.
    for (const inner of value.body.values)
      if (this.liveness.isLive(inner) && !this.liveness.isInline(inner)) this.visit(inner, place);
    for (const result of value.body.results) this.use(result, place);
  }

  private use(value: Value, place: number): void {
    // What is written in place uses its own operands there; so may a sum of whole numbers, which
    // is counted anew where one number is wanted for all lanes.
    const isSum = value.operation === 'iadd' || value.operation === 'isub';
    if (this.liveness.isInline(value)) return this.visit(value, place);
    if (isSum && (this.sums.get(value) ?? -1) < place) {
      this.sums.set(value, place);
      this.visit(value, place);
    }
    if (value.block === this.block && isPlain(value))
      this.last.set(value, Math.max(place, this.last.get(value) ?? 0));
  }
}

/** Results of loops, and what a loop carries, have locals of their own and keep them. */
const OWN_LOCALS: ReadonlySet<string> = new Set(['loop', 'loopResult', 'call', 'parameter']);
const isPlain = ({ operation }: Value): boolean => !OWN_LOCALS.has(operation);

/** All that the values of a block use, and those of the loops in it; some more than once. */
export function* valuesUsedIn(block: Block, liveness: Liveness): Generator<Value> {
  for (const value of block.values) {
    if (!liveness.isLive(value)) continue;
    yield* value.args;
    if (!value.body) continue;
    yield* value.body.results;
    yield* valuesUsedIn(value.body, liveness);
  }
}
