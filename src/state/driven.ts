import type { Dial } from '../core/graph/document';
import { stores } from './stores';

/** Marks on the board what a dial drives, while it is pointed at; null for none. */
export function markDriven(dial: Dial | null): void {
  const driven = dial ? dial.drives.map(({ node }) => node) : [];
  stores.view.setState({ driven });
}
