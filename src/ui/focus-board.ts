/** The board takes the focus: the next letter is meant for it. */
export function focusBoard(): void {
  document.querySelector<HTMLElement>('[data-board]')?.focus({ preventScroll: true });
}
