/**
 * Texels around charts, in the order in which they are filled, and the up to four neighbours each
 * is the mean of (−1 for none).
 */
export interface Gutter {
  readonly texels: Uint32Array;
  readonly sources: Int32Array;
}

/**
 * Plans the copying of every chart's edge outwards, so that filtering and mipmaps see no gap.
 * Planned once, it serves all maps of the same atlas. A texel takes the mean of the neighbours
 * covered before its round.
 * @param covered 1 where there is a value; not changed
 * @param rounds width of the gutter in texels
 */
export function planGutter(covered: Uint8Array, size: number, rounds: number): Gutter {
  const has = covered.slice();
  const texels: number[] = [];
  const sources: number[] = [];
  // After the first round only texels beside those just filled can be reached.
  let candidates = edgeOf(has, size);
  for (let round = 0; round < rounds && candidates.length > 0; round++) {
    for (const texel of candidates) {
      texels.push(texel);
      const column = texel % size;
      sources.push(
        column > 0 && has[texel - 1] ? texel - 1 : -1,
        column < size - 1 && has[texel + 1] ? texel + 1 : -1,
        has[texel - size] ? texel - size : -1,
        has[texel + size] ? texel + size : -1,
      );
    }
    for (const texel of candidates) has[texel] = 1;
    candidates = beside(candidates, has, size);
  }
  return { texels: Uint32Array.from(texels), sources: Int32Array.from(sources) };
}

/** Uncovered texels with a covered neighbour. */
function edgeOf(has: Uint8Array, size: number): readonly number[] {
  const found: number[] = [];
  for (let texel = 0; texel < has.length; texel++) {
    if (has[texel]) continue;
    const column = texel % size;
    if (
      (column > 0 && has[texel - 1]) ||
      (column < size - 1 && has[texel + 1]) ||
      has[texel - size] ||
      has[texel + size]
    )
      found.push(texel);
  }
  return found;
}

function beside(filled: readonly number[], has: Uint8Array, size: number): readonly number[] {
  const found = new Set<number>();
  for (const texel of filled) {
    const column = texel % size;
    if (column > 0 && !has[texel - 1]) found.add(texel - 1);
    if (column < size - 1 && !has[texel + 1]) found.add(texel + 1);
    if (texel >= size && !has[texel - size]) found.add(texel - size);
    if (texel + size < has.length && !has[texel + size]) found.add(texel + size);
  }
  return [...found];
}

/** Fills the gutter of a map with `channels` values per texel. */
export function fillGutter(
  data: Float32Array,
  { texels, sources }: Gutter,
  channels: number,
): void {
  for (let k = 0; k < texels.length; k++) {
    const at = (texels[k] as number) * channels;
    for (let c = 0; c < channels; c++) {
      let sum = 0,
        count = 0;
      for (let side = 0; side < 4; side++) {
        const source = sources[k * 4 + side] as number;
        if (source < 0) continue;
        sum += data[source * channels + c] as number;
        count++;
      }
      data[at + c] = sum / count;
    }
  }
}
