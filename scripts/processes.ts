/** Processes of this machine, read from /proc. */
import { readFileSync, readdirSync } from 'node:fs';

export interface ProcessFacts {
  readonly pid: number;
  readonly parent: number;
  readonly command: string;
}

/** All processes that can be looked at. */
export function listProcesses(): ProcessFacts[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((pid) => {
      try {
        const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
        // The name stands in brackets and may hold blanks; state and parent follow.
        const [, parent] = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
        const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ').trim();
        return [{ pid: Number(pid), parent: Number(parent), command }];
      } catch {
        // Ended meanwhile.
        return [];
      }
    });
}

/** Memory a process holds, bytes; 0 where that cannot be read. */
export function residentBytes(pid: number | null): number {
  try {
    const status = readFileSync(`/proc/${String(pid)}/status`, 'utf8');
    return Number(/VmRSS:\s+(\d+) kB/.exec(status)?.[1] ?? 0) * 1024;
  } catch {
    return 0;
  }
}
