/** Begins with the suites that take longest, so that no worker is left alone with one at the end. */
const { default: Sequencer } = require('@jest/test-sequencer');

/** Those above 15 seconds, longest first; the others follow by size. */
const LONGEST = [
  'database/restarts',
  'database/releases',
  'server/worker',
  'contract/random-networks',
  'mesh/curvature',
  'nodes/noise-quality',
  'database/group-files',
  'nodes/group-notes',
  'compare/dominant',
  'mesh/atlases',
  'mesh/rays',
  'database/material-files',
];

module.exports = class LongestFirst extends Sequencer {
  sort(tests) {
    const rank = ({ path }) => {
      const at = LONGEST.findIndex((name) => path.endsWith(`/${name}.test.ts`));
      return at < 0 ? LONGEST.length : at;
    };
    return super.sort(tests).sort((a, b) => rank(a) - rank(b));
  }
};
