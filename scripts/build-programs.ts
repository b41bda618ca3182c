/** Compiles the programs of the server, so that they start at once and compute at full speed. */
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';
import { PROGRAMS } from '../src/server/programs';
import { hashSources } from './build';
import { listProcesses } from './processes';

const DAY_MS = 86_400_000;

/** Removes what was compiled on another day, unless a studio still runs on it. */
function forgetOld(all: string): void {
  const running = listProcesses().map(({ command }) => command);
  for (const name of readdirSync(all)) {
    const folder = path.join(all, name);
    const made = statSync(folder, { throwIfNoEntry: false })?.mtimeMs ?? Infinity;
    const isUsed = running.some((command) => command.includes(name));
    if (!isUsed && made < Date.now() - DAY_MS) rmSync(folder, { recursive: true, force: true });
  }
}

/**
 * Compiles where the sources have changed since; takes about a second.
 * @returns the folder of the compiled programs, for BRIGHT_LOOM_PROGRAMS
 */
export async function buildPrograms(root: string): Promise<string> {
  const all = path.join(root, '.programs');
  const folder = path.join(all, hashSources(root, ['src']).slice(0, 16));
  if (existsSync(folder)) return folder;
  mkdirSync(all, { recursive: true });
  forgetOld(all);
  // Others may compile the same meanwhile: whoever is first with all files in place has made it.
  const draft = `${folder}-${String(process.pid)}`;
  await build({
    absWorkingDir: root,
    entryPoints: PROGRAMS.map((name) => `src/server/${name}.ts`),
    outbase: 'src/server',
    outdir: draft,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    packages: 'external',
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
  });
  try {
    renameSync(draft, folder);
  } catch {
    rmSync(draft, { recursive: true, force: true });
  }
  return folder;
}
