/** Runs parts one after another, each whatever became of the others. */
import { isQuick, sized } from '../size';
import { comparison, readRuns, writeRuns } from './history';
import type { Part } from './part';

const WIDTH = 66;
/** Minutes after which a part is given up, so that one that hangs keeps nothing from being said. */
const MOST_MINUTES = sized(120, 5);

interface Outcome {
  /** Parts that could not be measured to their end. */
  readonly failed: readonly string[];
  readonly rows: number;
}

/**
 * Prints rows as they come, compares them with the runs of a file, and adds this run to it.
 *
 * @param file of the runs
 */
export async function runParts(parts: readonly Part[], file: string): Promise<Outcome> {
  const runs = readRuns(file);
  const before = runs.filter((run) => run.isQuick === isQuick);
  const figures: Record<string, number> = {};
  const failed: string[] = [];
  for (const { id, needs, measure } of parts) {
    const began = performance.now();
    process.stdout.write(`== ${id}\n`);
    try {
      const measured = measure((name, text, value) => {
        const key = `${id}: ${name}`;
        if (!Number.isFinite(value)) throw new Error(`“${name}” has no figure: ${text}`);
        process.stdout.write(`${name.padEnd(WIDTH)} ${text}${comparison(value, key, before)}\n`);
        figures[key] = value;
      });
      await withinLimit(measured);
      process.stdout.write(`== ${id}: done in ${seconds(began)} s\n`);
    } catch (error) {
      failed.push(id);
      process.stdout.write(
        `== ${id}: NOT MEASURED after ${seconds(began)} s: ` +
          `${error instanceof Error ? error.message : String(error)}\n   It needs ${needs}.\n`,
      );
    }
  }
  writeRuns(file, [...runs, { at: new Date().toISOString(), isQuick, figures }]);
  return { failed, rows: Object.keys(figures).length };
}

/** @throws Error when the work takes longer than a part may */
async function withinLimit(work: Promise<void> | void): Promise<void> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(() => {
      reject(new Error(`It did not end within ${String(MOST_MINUTES)} minutes.`));
    }, MOST_MINUTES * 60_000);
  });
  try {
    await Promise.race([work, late]);
  } finally {
    clearTimeout(timer);
  }
}

const seconds = (began: number): string => ((performance.now() - began) / 1000).toFixed(1);
