import path from 'node:path';

/** How Node starts one of our programs. */
export interface Program {
  readonly file: string;
  readonly execArgv: readonly string[];
}

/**
 * Programs of the server, from `src/server`. The start command compiles them: compiled while they
 * load, as they are elsewhere, each begins seconds later and computes at half the speed.
 */
export const PROGRAMS = [
  'web/server-main',
  'worker-main',
  'worker/job-process',
  'http/body-thread',
] as const;
export type ProgramName = (typeof PROGRAMS)[number];

/**
 * A program as it was compiled into the folder that BRIGHT_LOOM_PROGRAMS names, from its source
 * where there is none.
 */
export function findProgram(name: ProgramName): Program {
  const folder = process.env['BRIGHT_LOOM_PROGRAMS'];
  if (folder) return { file: path.join(folder, `${name}.mjs`), execArgv: ['--enable-source-maps'] };
  const file = path.resolve(process.cwd(), 'src/server', `${name}.ts`);
  return { file, execArgv: ['--import', 'tsx'] };
}
