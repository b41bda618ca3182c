import type { Dial } from '../core/graph/document';
import { stores } from './stores';
import type { PointedValue } from './stores';

/**
 * Marks on the board what a dial drives, and on the stage what it changes, while it is pointed at;
 * null for none.
 * @param place the dial on the card of its group
 */
export function pointAtDial(dial: Dial | null, place: PointedValue | null): void {
  const driven = dial ? dial.drives.map(({ node }) => node) : [];
  stores.view.setState({ driven });
  stores.probe.setState({ pointedValue: place });
}
