import { offerDial } from '@/core/edit/dial-offers';
import { useBoardId } from '@/state/use-card';
import { useDocument } from '@/state/use-stores';

/** Makes a value or an option of a node a dial of the open group. */
export type Expose = (node: string, input: string) => void;

/** What makes a value or an option a dial of the open group; null where it cannot be one. */
export function useExpose(
  node: string,
  input: string,
  onExpose: Expose | null,
): (() => void) | null {
  const board = useBoardId();
  const isOffered = useDocument(
    ({ document }) =>
      onExpose !== null && board !== null && offerDial(document, board, node, input) !== null,
  );
  return isOffered
    ? () => {
        onExpose?.(node, input);
      }
    : null;
}
