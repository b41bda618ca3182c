/**
 * Brings up one of the studios of the browser tests, from a copy of the demo, and keeps it up.
 * Arguments: its folder, its port.
 */
import { spawn } from 'node:child_process';
import path from 'node:path';
import { copyCluster, removeCluster } from '../cluster';
import { DEMO_FOLDER, makeDemo } from './demo';

const root = path.resolve(import.meta.dirname, '../..');
const [folder = '', port = ''] = process.argv.slice(2);
const say = (text: string): void => {
  console.log(`${path.basename(folder)}: ${text}`);
};
// Making the demo says in the environment which database it is made in.
const env = { ...process.env };
await makeDemo(say);
removeCluster(folder);
copyCluster(DEMO_FOLDER, folder, say);
const start = spawn('./start', ['--throw-away'], {
  cwd: root,
  env: {
    ...env,
    BRIGHT_LOOM_DATA: folder,
    PORT: port,
    DATABASE_URL: '',
    BRIGHT_LOOM_CHECK_ANSWERS: 'yes',
    NEXT_PUBLIC_TEST_HOOKS: 'yes',
  },
  stdio: 'inherit',
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => start.kill(signal));
start.on('exit', (code) => process.exit(code ?? 0));
