'use client';
import { useEffect } from 'react';
import { goBack, goForward, togglePanel, toggleStageAlone } from '@/state/editing';
import { stores } from '@/state/stores';
import type { PanelName } from '@/state/stores';

/** The digits that hide a part of the window and show it again, with Alt. */
export const PANEL_DIGITS: Readonly<Record<PanelName, number>> = {
  stage: 1,
  board: 2,
  bench: 3,
  front: 4,
};
const ALONE = 0;

export const openFind = (isFinding: boolean): void => {
  stores.view.setState({ isFinding });
};

function press({ code, key }: KeyboardEvent): boolean {
  if (key === 'ArrowLeft') goBack();
  else if (key === 'ArrowRight') goForward();
  else if (code === `Digit${String(ALONE)}`) toggleStageAlone();
  else {
    const panel = Object.entries(PANEL_DIGITS).find(
      ([, digit]) => code === `Digit${String(digit)}`,
    );
    if (!panel) return false;
    togglePanel(panel[0] as PanelName);
  }
  return true;
}

/** Keys of the whole editor that change what is seen. They work while something is typed, too. */
export function useViewKeys(): void {
  useEffect(() => {
    const down = (event: KeyboardEvent): void => {
      const isFind = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'f';
      if (isFind && !event.shiftKey) openFind(true);
      else if (!event.altKey || event.ctrlKey || event.metaKey || !press(event)) return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener('keydown', down, { capture: true });
    return () => {
      window.removeEventListener('keydown', down, { capture: true });
    };
  }, []);
}
