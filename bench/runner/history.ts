/** Runs of before, kept in a file, and what became of their figures. */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import Joi from 'joi';
import { median } from '../core/evaluate';
import { times } from './part';

/** Figures of a run, by part and name. */
export type Figures = Readonly<Record<string, number>>;
interface Run {
  readonly at: string;
  /** Whole runs and quick ones are never compared. */
  readonly isQuick: boolean;
  readonly figures: Figures;
}
/** More runs than anybody compares with. */
const MOST_RUNS = 40;

const form = Joi.array().items(
  Joi.object({
    at: Joi.string().isoDate().required(),
    isQuick: Joi.boolean().required(),
    figures: Joi.object().pattern(Joi.string(), Joi.number()).required(),
  }),
);

/** The runs of a file, the last one last; none where there is no file. @throws Error */
export function readRuns(file: string): readonly Run[] {
  if (!existsSync(file)) return [];
  const { error, value } = form.validate(JSON.parse(readFileSync(file, 'utf8'))) as {
    error?: Error;
    value: readonly Run[];
  };
  if (error) throw new Error(`${file} holds no runs of the benchmark: ${error.message}`);
  return value;
}

export function writeRuns(file: string, runs: readonly Run[]): void {
  mkdirSync(path.dirname(file), { recursive: true });
  writeFileSync(file, `${JSON.stringify(runs.slice(-MOST_RUNS), null, 1)}\n`);
}

/** Against the runs of before: of the median, and from the largest of them to the least. */
export function comparison(value: number, key: string, before: readonly Run[]): string {
  const known = before.flatMap(({ figures }) => figures[key] ?? []).filter((each) => each > 0);
  if (known.length === 0) return '';
  const ratios = known.map((each) => value / each).sort((a, b) => a - b);
  const spread =
    known.length === 1
      ? ''
      : `, ${times(ratios[0] ?? NaN)} to ${times(ratios.at(-1) ?? NaN)} of ${String(known.length)}`;
  return ` [${times(value / median(known))} before${spread}]`;
}
