interface Entry<T> {
  readonly from: readonly unknown[];
  readonly made: T;
}
type AddElement<T> = (
  id: string,
  from: readonly unknown[],
  make: () => T,
  isAlike?: (a: T, b: T) => boolean,
) => void;
type Gather<T> = (element: AddElement<T>) => void;

/**
 * Elements of a board by their ids, made again only when what they are made of changed: the drawing
 * library and its cards then see which ones did.
 */
export class SteadyElements<T> {
  private known = new Map<string, Entry<T>>();
  private list: readonly T[] = [];

  /**
   * The elements of one round, in order.
   * @param gather calls `element` for each, with all that it is made of; equal parts (by identity)
   *   give the element of the round before, and so does an element that says the same, where the
   *   last argument tells that
   * @returns the list of the round before where no element differs from it
   */
  round(gather: Gather<T>): readonly T[] {
    const next = new Map<string, Entry<T>>();
    const list: T[] = [];
    gather((id, ...made) => {
      const entry = entryOf(this.known.get(id), ...made);
      next.set(id, entry);
      list.push(entry.made);
    });
    this.known = next;
    const { list: before } = this;
    if (before.length !== list.length || list.some((each, k) => each !== before[k]))
      this.list = list;
    return this.list;
  }

  /**
   * As `round`, where only some may differ from the round before: those `gather` calls `element`
   * for. None of them is new, none has gone, and they stand in the same order.
   */
  amend(gather: Gather<T>): readonly T[] {
    const replaced = new Map<T, T>();
    gather((id, ...made) => {
      const old = this.known.get(id);
      const entry = entryOf(old, ...made);
      this.known.set(id, entry);
      if (old && old.made !== entry.made) replaced.set(old.made, entry.made);
    });
    if (replaced.size > 0) this.list = this.list.map((each) => replaced.get(each) ?? each);
    return this.list;
  }
}

function entryOf<T>(
  old: Entry<T> | undefined,
  from: readonly unknown[],
  make: () => T,
  isAlike?: (a: T, b: T) => boolean,
): Entry<T> {
  if (old?.from.length === from.length && old.from.every((x, k) => x === from[k])) return old;
  const made = make();
  return { from, made: old && isAlike?.(old.made, made) ? old.made : made };
}
