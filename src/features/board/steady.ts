/**
 * Elements of a board by their ids, made again only when what they are made of changed: the drawing
 * library and its cards then see which ones did.
 */
export class SteadyElements<T> {
  private known = new Map<string, { readonly from: readonly unknown[]; readonly made: T }>();
  private list: readonly T[] = [];

  /**
   * The elements of one round, in order.
   * @param gather calls `element` for each, with all that it is made of; equal parts (by identity)
   *   give the element of the round before, and so does an element that says the same, where the
   *   last argument tells that
   * @returns the list of the round before where no element differs from it
   */
  round(
    gather: (
      element: (
        id: string,
        from: readonly unknown[],
        make: () => T,
        isAlike?: (a: T, b: T) => boolean,
      ) => void,
    ) => void,
  ): readonly T[] {
    const next = new Map<string, { readonly from: readonly unknown[]; readonly made: T }>();
    const list: T[] = [];
    gather((id, from, make, isAlike) => {
      const old = this.known.get(id);
      const isSame = old?.from.length === from.length && old.from.every((x, k) => x === from[k]);
      let entry = old && isSame ? old : { from, made: make() };
      if (old && old !== entry && isAlike?.(old.made, entry.made)) entry = { from, made: old.made };
      next.set(id, entry);
      list.push(entry.made);
    });
    this.known = next;
    const { list: before } = this;
    if (before.length !== list.length || list.some((each, k) => each !== before[k]))
      this.list = list;
    return this.list;
  }
}
