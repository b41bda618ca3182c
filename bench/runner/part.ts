/** A part of the benchmark: what it measures, and how it says what it found. */

/** A figure in words, and as a number that runs are compared by; the less, the better. */
export interface Row {
  readonly name: string;
  readonly text: string;
  readonly value: number;
}

/** Takes a row as soon as it is measured. */
export type NoteRow = (name: string, text: string, value: number) => void;

export interface Part {
  readonly id: string;
  /** What it needs besides Node and PostgreSQL; said where it cannot run. */
  readonly needs: string;
  readonly measure: (row: NoteRow) => Promise<void> | void;
}

export const milliseconds = (value: number): string => `${value.toFixed(value < 100 ? 1 : 0)} ms`;
export const times = (value: number): string => `${value.toFixed(2)} ×`;
