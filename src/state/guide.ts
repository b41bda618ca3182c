'use client';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';

const KEY = 'bright-loom guide left';
const wasLeft = (): boolean => {
  try {
    return localStorage.getItem(KEY) !== null;
  } catch {
    return true;
  }
};

const guide = createStore(() => ({ isShown: false }));

/** Shows the guide of first steps, or leaves it; that it was left is remembered in this browser. */
export function showGuide(isShown: boolean): void {
  guide.setState({ isShown });
  try {
    if (isShown) localStorage.removeItem(KEY);
    else localStorage.setItem(KEY, 'yes');
  } catch {
    // Then it is offered again the next time.
  }
}

/** Shows it by itself on an empty board, unless it was left before. */
export function offerGuide(isEmpty: boolean): void {
  guide.setState({ isShown: isEmpty && !wasLeft() });
}

export const useGuide = (): boolean => useStore(guide, ({ isShown }) => isShown);
