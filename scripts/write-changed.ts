import { existsSync, readFileSync, writeFileSync } from 'node:fs';

/** Writes a generated file where it is another than the one there: a build may be reading it. */
export function writeChanged(file: string, text: string): void {
  if (!existsSync(file) || readFileSync(file, 'utf8') !== text) writeFileSync(file, text);
}
