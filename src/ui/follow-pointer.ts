/** What is done while a pointer is held down and moved. */
export interface PointerFollower {
  /** Pixels to the right and downwards since the last call, and the keys held. */
  readonly onMove: (right: number, down: number, keys: PointerEvent) => void;
  /** `isGivenUp`: by Escape; what was changed is to be taken back. */
  readonly onEnd: (isGivenUp: boolean) => void;
}

/**
 * Follows a pointer from its press to its release. Nobody else hears of the moves meanwhile: what
 * watches the whole window would lay the page out anew for each of them.
 */
export function followPointer(press: PointerEvent, { onMove, onEnd }: PointerFollower): void {
  let [x, y] = [press.clientX, press.clientY];
  const listening = new AbortController();
  const end = (isGivenUp: boolean): void => {
    listening.abort();
    onEnd(isGivenUp);
  };
  const { signal } = listening;
  const isOurs = ({ pointerId }: PointerEvent): boolean => pointerId === press.pointerId;
  const move = (event: PointerEvent): void => {
    if (!isOurs(event)) return;
    event.stopPropagation();
    const [right, down] = [event.clientX - x, event.clientY - y];
    [x, y] = [event.clientX, event.clientY];
    if (right !== 0 || down !== 0) onMove(right, down, event);
  };
  const release = (event: PointerEvent): void => {
    if (isOurs(event)) end(false);
  };
  const giveUp = (event: KeyboardEvent): void => {
    if (event.key !== 'Escape') return;
    event.stopPropagation();
    event.preventDefault();
    end(true);
  };
  window.addEventListener('pointermove', move, { capture: true, signal });
  window.addEventListener('pointerup', release, { capture: true, signal });
  window.addEventListener('pointercancel', release, { capture: true, signal });
  window.addEventListener('keydown', giveUp, { capture: true, signal });
  window.addEventListener(
    'blur',
    () => {
      end(false);
    },
    { signal },
  );
}
