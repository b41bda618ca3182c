import { getNodeTitle } from '../core/compile/catalogue';
import { boardAt, getNetwork } from '../core/edit/board';
import type { Dial } from '../core/graph/document';
import { stores } from './stores';
import type { PointedValue } from './stores';

/**
 * Marks on the stage what a node or a strand changes while it is pointed at; null for none.
 * @param part where it is on the open board
 */
export function pointAtPart(
  part: { readonly part: 'node'; readonly node: string } | StrandPart | null,
): void {
  const known = stores.probe.getState().pointedValue;
  if (!part) {
    // A value that is pointed at elsewhere stays.
    if (known && 'part' in known) stores.probe.setState({ pointedValue: null });
    return;
  }
  const { path } = stores.view.getState();
  const { document } = stores.document.getState();
  const { nodes, strands } = getNetwork(document, boardAt(document, path));
  const titleOf = (id: string): string => {
    const node = nodes.find((each) => each.id === id);
    return node ? getNodeTitle(document, node) : 'the selvedge';
  };
  const strand = part.part === 'strand' ? strands.find(({ id }) => id === part.id) : undefined;
  if (part.part === 'strand' && !strand) return;
  const title =
    part.part === 'node'
      ? titleOf(part.node)
      : `${titleOf(strand?.from.node ?? '')} to ${titleOf(strand?.to.node ?? '')}`;
  const place: PointedValue = { path, title, ...part };
  if (JSON.stringify(known) !== JSON.stringify(place))
    stores.probe.setState({ pointedValue: place });
}
interface StrandPart {
  readonly part: 'strand';
  readonly id: string;
}

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
