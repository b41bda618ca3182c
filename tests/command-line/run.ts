import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { main } from '../../cli/main';
import { documentOf, node } from '../support/networks';

/** Where files of these tests go. */
export const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-cli-'));
/** Writes a file into the folder of these tests. @returns where it is */
export const write = (name: string, content: unknown): string => {
  const file = path.join(folder, name);
  writeFileSync(file, typeof content === 'string' ? content : JSON.stringify(content));
  return file;
};
/** Calls the command line. */
export async function run(
  ...args: string[]
): Promise<{ code: number; out: string; error: string }> {
  const out: string[] = [],
    errors: string[] = [];
  const code = await main(
    args,
    (text) => out.push(text),
    (text) => errors.push(text),
  );
  return { code, out: out.join('\n'), error: errors.join('\n') };
}
/** A height, a sum and a curvature into a surface. */
export const plain = documentOf(
  [
    node('h', 'gradients.gradient', { length: 2 }, { per: 'unit' }),
    node('m', 'math.math', { b: 0.25 }, { operation: 'add' }),
    node('c', 'model.curvature', { gain: 1, threshold: 0 }),
    node('s', 'surface.surface'),
  ],
  ['h:value > m:a', 'm:value > s:roughness', 'c:convex > s:metalness', 's:surface > @out:surface'],
);
