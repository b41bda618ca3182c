/** Builds the application where its sources have changed since the last build. */
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const CONFIGURATION = [
  'package-lock.json',
  'next.config.ts',
  'tsconfig.json',
  'postcss.config.mjs',
];

/** A hash of all files of folders, and of what the build is configured by. */
export function hashSources(root: string, folders: readonly string[]): string {
  const hash = createHash('sha256');
  const visit = (at: string): void => {
    const entries = readdirSync(at, { withFileTypes: true });
    for (const entry of entries.sort((a, b) => a.name.localeCompare(b.name))) {
      const full = path.join(at, entry.name);
      if (entry.isDirectory()) visit(full);
      else if (!/\.test\.tsx?$/.test(entry.name)) {
        hash.update(full.slice(root.length)).update(readFileSync(full));
      }
    }
  };
  for (const folder of folders) visit(path.join(root, folder));
  hash.update(process.env.NEXT_PUBLIC_TEST_HOOKS ?? 'no');
  for (const file of CONFIGURATION) hash.update(readFileSync(path.join(root, file)));
  return hash.digest('hex');
}

/** Runs a program to its end. @throws Error with what it wrote where it fails */
function finish(root: string, args: readonly string[]): Promise<void> {
  const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' } as const;
  const child = spawn('node_modules/.bin/next', [...args], { cwd: root, env });
  const written: string[] = [];
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (text: Buffer) => written.push(text.toString()));
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (code) => {
      if (code === 0) resolve();
      else reject(new Error(`The build failed:\n${written.join('')}`));
    });
  });
}

/** Builds where needed; other work of this process goes on meanwhile. */
export async function build(root: string, say: (text: string) => void): Promise<void> {
  const stamp = path.join(root, '.next/bright-loom-sources');
  const wanted = hashSources(root, ['src']);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) {
    say('the build is up to date');
    return;
  }
  say('building (about a minute, once per change)');
  await finish(root, ['build']);
  writeFileSync(stamp, wanted);
  say('built');
}
