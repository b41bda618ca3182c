/**
 * Measures the project and prints figures; compare ratios only, and those of several runs.
 *
 * `npm run bench`, or `npm run bench -- --quick` with small inputs; names of parts measure these
 * alone; `--runs FILE` keeps figures elsewhere than in `.data/bench-runs.json`.
 */
import { sized } from './size';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { BOARD_PARTS } from './parts/board';
import { CORE_PARTS } from './parts/core';
import { GROUP_PARTS } from './parts/groups';
import { LIBRARY_PARTS } from './parts/library';
import { MODEL_PARTS } from './parts/models';
import { SEEING_PARTS } from './parts/seeing';
import { STAGE_PARTS } from './parts/stage';
import { STUDIO_PARTS } from './parts/studio';
import { runParts } from './runner/run-parts';
import { endOwnStudio } from './studio/own-studio';

const PARTS = [
  ...CORE_PARTS,
  ...MODEL_PARTS,
  ...GROUP_PARTS,
  ...SEEING_PARTS,
  ...LIBRARY_PARTS,
  ...STAGE_PARTS,
  ...BOARD_PARTS,
  ...STUDIO_PARTS,
];

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { quick: { type: 'boolean' }, runs: { type: 'string' } },
});
const unknown = positionals.filter((name) => !PARTS.some(({ id }) => id === name));
if (unknown.length > 0) {
  process.stderr.write(
    `There is no part ${unknown.join(', ')}. Parts: ${PARTS.map(({ id }) => id).join(', ')}.\n`,
  );
  process.exit(2);
}
const asked = PARTS.filter(({ id }) => positionals.length === 0 || positionals.includes(id));
const file = path.resolve(import.meta.dirname, '../.data/bench-runs.json');
let failed: readonly string[] = asked.map(({ id }) => id);
try {
  const outcome = await runParts(asked, values.runs ?? file);
  ({ failed } = outcome);
  process.stdout.write(
    `${String(outcome.rows)} figures, ${sized('whole', 'quick')}; ` +
      (failed.length === 0 ? 'every part was measured' : `not measured: ${failed.join(', ')}`) +
      '\n',
  );
} finally {
  await endOwnStudio();
}
process.exit(failed.length === 0 ? 0 : 1);
