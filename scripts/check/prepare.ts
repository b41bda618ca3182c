/** Makes one thing that browser tests need: `build`, the build for tests, or `demo`. */
import path from 'node:path';
import { build } from '../build';
import { makeDemo } from './demo';

const root = path.resolve(import.meta.dirname, '../..');
const began = Date.now();
const say = (text: string): void => {
  console.log(`[${((Date.now() - began) / 1000).toFixed(1).padStart(5)} s] ${text}`);
};
const [what] = process.argv.slice(2);
if (what === 'demo') await makeDemo(say);
else if (what === 'build') {
  process.env.NEXT_PUBLIC_TEST_HOOKS = 'yes';
  await build(root, say);
} else throw new Error('Say what to prepare: build or demo.');
