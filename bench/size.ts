/**
 * How large what is measured is: whole, or so small that every part is gone through in moments and
 * its figures mean nothing (`npm run bench -- --quick`). Processes of a part are told by the
 * environment.
 */
const NAME = 'BRIGHT_LOOM_BENCH';
if (process.argv.includes('--quick')) process.env[NAME] = 'quick';
export const isQuick = process.env[NAME] === 'quick';

/** One size or the other. */
export const sized = <T>(whole: T, quick: T): T => (isQuick ? quick : whole);
