import { create } from 'zustand';
import type { BoardPoint, LaidStrand } from './lay-strands';

/** The strands of the open board that are laid around cards, as it rested last. */
export const useLaid = create<ReadonlyMap<string, LaidStrand>>(() => new Map());
const isAt = (a: BoardPoint, x: number, y: number): boolean =>
  Math.abs(a[0] - x) < 2 && Math.abs(a[1] - y) < 2;
const STRAIGHT: readonly BoardPoint[] = [];

/** Where a strand goes through to get around cards, while its ends are where they were then. */
export function useDetour(id: string, from: BoardPoint, to: BoardPoint): readonly BoardPoint[] {
  const laid = useLaid((all) => all.get(id));
  return laid && isAt(laid.from, ...from) && isAt(laid.to, ...to) ? laid.through : STRAIGHT;
}
