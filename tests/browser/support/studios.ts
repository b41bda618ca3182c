/** The studios that browser tests run in: one for each worker, all of one build. */
import { readFileSync } from 'node:fs';
import path from 'node:path';

/** Browser workers beside each other, each with a studio of its own. */
export const STUDIO_COUNT = Number(process.env['TEST_WORKERS'] ?? 2);
const FIRST_PORT = Number(process.env['TEST_PORT'] ?? 4317);
const ROOT = path.resolve(import.meta.dirname, '../../..');

export const studioPort = (index: number): number => FIRST_PORT + index;
/** The address of a studio. */
export const studioOrigin = (index: number): string =>
  `http://127.0.0.1:${String(studioPort(index))}`;
/** Where a studio keeps its data. */
export const studioFolder = (index: number): string =>
  path.join(ROOT, `.data/check-${String(index)}`);

/** The studio of this worker. */
const ownIndex = (): number => Number(process.env['TEST_PARALLEL_INDEX'] ?? 0);
export const ownOrigin = (): string => studioOrigin(ownIndex());
/** A port for another studio that a test of this worker brings up itself. */
export const ownSparePort = (): number => studioPort(STUDIO_COUNT + ownIndex());
/** The password of all demo accounts of this worker's studio. */
export const password = (): string =>
  (
    JSON.parse(readFileSync(path.join(studioFolder(ownIndex()), 'settings.json'), 'utf8')) as {
      demoPassword: string;
    }
  ).demoPassword;
