// The last lines of ./check: its time by part, the slowest tests and suites, what passed only at
// the second try, which part became slower, and the line "N passed, N failed". Argument: 1 when a
// step failed.
import { existsSync, readFileSync } from 'node:fs';

const SLOWEST = 10;
/** A part that takes more than so many times its figure of before is named. */
const SLOWER = 1.2;
const read = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null);
const seconds = (ms) => `${(ms / 1000).toFixed(1)} s`;

const unit = read('test-results/unit.json');
const browser = read('test-results/browser.json');

/** All tests of the browser with their file, their seconds and whether they passed. */
function browserTests(suite, title = '') {
  const name = suite.file === suite.title ? suite.title : [title, suite.title].join(' ').trim();
  return [
    ...(suite.suites ?? []).flatMap((each) => browserTests(each, name)),
    ...(suite.specs ?? []).flatMap((spec) =>
      spec.tests.map(({ status, results }) => ({
        name: `${spec.file} › ${spec.title}`,
        status,
        ms: results.reduce((sum, { duration }) => sum + duration, 0),
      })),
    ),
  ];
}
const tests = (browser?.suites ?? []).flatMap((suite) => browserTests(suite));
const suites = (unit?.testResults ?? []).map(({ name, startTime, endTime }) => ({
  name: name.replace(`${process.cwd()}/`, ''),
  ms: endTime - startTime,
}));

/** The ten that took longest. */
function listSlowest(what, all) {
  if (all.length === 0) return;
  console.log(`Slowest ${what}:`);
  for (const { name, ms } of [...all].sort((a, b) => b.ms - a.ms).slice(0, SLOWEST))
    console.log(`  ${seconds(ms).padStart(8)}  ${name}`);
}
listSlowest('suites', suites);
listSlowest('browser tests', tests);

/** Seconds of each part as docs/performance.md has them. */
const kept = new Map(
  readFileSync('docs/performance.md', 'utf8')
    .split('\n')
    .flatMap((line) => {
      const found = /^\| `check`: (.+?) +\| +(\d+) s/.exec(line);
      return found ? [[found[1].trim(), Number(found[2])]] : [];
    }),
);
const parts = readFileSync('test-results/parts.txt', 'utf8')
  .trim()
  .split('\n')
  .map((line) => {
    const [, took, name] = /^(\d+) (.+)$/.exec(line) ?? [];
    return { name, took: Number(took) };
  });
console.log('Time by part (parts run beside each other):');
for (const { name, took } of parts) {
  const before = kept.get(name);
  const isSlower = before !== undefined && took > before * SLOWER;
  console.log(
    `  ${String(took).padStart(5)} s  ${name}` +
      (isSlower ? `: slower than the ${before} s that docs/performance.md has` : ''),
  );
}

const flaky = tests.filter(({ status }) => status === 'flaky');
if (flaky.length > 0) {
  console.log(`Passed only at the second try: ${flaky.length}`);
  for (const { name } of flaky) console.log(`  ${name}`);
}

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
