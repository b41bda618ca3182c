// Adds up the tests of all runners and says whether everything held. Argument: 1 when a step
// failed.
import { existsSync, readFileSync } from 'node:fs';

const read = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null);
const unit = read('test-results/unit.json');
const browser = read('test-results/browser.json');
const passed =
  (unit?.numPassedTests ?? 0) + (browser?.stats.expected ?? 0) + (browser?.stats.flaky ?? 0);
let failed =
  (unit?.numFailedTests ?? 0) +
  (unit?.numRuntimeErrorTestSuites ?? 0) +
  (browser?.stats.unexpected ?? 0);
// A step that failed without a failing test (types, lint, a runner that did not start) counts as
// one.
if (failed === 0 && (process.argv[2] !== '0' || !unit || !browser)) failed = 1;
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
