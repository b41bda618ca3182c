import type { Statistics } from '@/core/evaluate/statistics';

export interface Finding { readonly mark: string; readonly text: string }

const percent = (share: number): string => `${(share * 100).toFixed(share < 0.01 ? 2 : 0)} %`;

/** Marks for values that leave 0–1, are the same everywhere, or are no numbers. */
export function findingsOf(statistics: Statistics): readonly Finding[] {
  const findings: Finding[] = [];
  if (statistics.notANumber > 0) findings.push({ mark: '∅', text: `${percent(statistics.notANumber)} of the surface is not a number` });
  if (statistics.below > 0) findings.push({ mark: '<0', text: `${percent(statistics.below)} of the surface lies below 0` });
  if (statistics.above > 0) findings.push({ mark: '>1', text: `${percent(statistics.above)} of the surface lies above 1` });
  if (statistics.constant) findings.push({ mark: '=', text: 'The same value over the whole surface' });
  return findings;
}
