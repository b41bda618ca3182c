'use client';
import { useState } from 'react';

/** Gives the value given before where a new one says the same, compared as JSON. */
class Steady<T> {
  private last: { readonly text: string; readonly value: T } | null = null;

  of(value: T): T {
    const text = JSON.stringify(value);
    if (this.last?.text !== text) this.last = { text, value };
    return this.last.value;
  }
}

/**
 * The value of the render before where this one says the same: for small lists that are made anew,
 * so that what is drawn of them is not.
 */
export function useSteady<T>(value: T): T {
  const [steady] = useState(() => new Steady<T>());
  return steady.of(value);
}

/**
 * A selector of a store whose results are made anew each time: the one before where a new one says
 * the same, so that what follows it is drawn only when it changes.
 */
export function useSteadySelector<S, T>(select: (state: S) => T): (state: S) => T {
  const [steady] = useState(() => new Steady<T>());
  return (state) => steady.of(select(state));
}
