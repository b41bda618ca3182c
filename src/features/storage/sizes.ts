import type { HoldingKind } from '@/contract/storage';

const UNITS = ['bytes', 'kB', 'MB', 'GB', 'TB'];
/** Bytes in words of three digits, in steps of a thousand. */
export function sizeWords(bytes: number): string {
  let value = bytes,
    unit = 0;
  for (; value >= 999.5 && unit < UNITS.length - 1; unit++) value /= 1000;
  return `${unit === 0 ? String(value) : value.toPrecision(3)} ${UNITS[unit] ?? ''}`;
}

/** The kinds of things that take room: how several are called, and their colour in bars. */
export const KINDS: Readonly<Record<HoldingKind, { words: string; colour: string }>> = {
  model: { words: 'models', colour: 'bg-weld' },
  image: { words: 'images', colour: 'bg-woad' },
  material: { words: 'materials', colour: 'bg-soft' },
};
