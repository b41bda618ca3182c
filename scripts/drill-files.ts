/**
 * Reads thousands of damaged files, the same at every run, and says how many were refused in words,
 * how many crashed the reader, took too long or too much memory. `npm run drill:files [count]`.
 */
import { fork } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { encode as encodePng } from 'fast-png';
import { encode as encodeJpeg } from 'jpeg-js';
import { writeExr, writeRadiance } from '../tests/support/image-files';
import { mutate, mutateDescription } from './drill/mutations';
import { residentBytes } from './processes';
import type { ReadOrder, ReadReply } from './drill/read-process';

const root = path.resolve(import.meta.dirname, '..');
const LONGEST_MS = 5000,
  MOST_BYTES = 500 * 2 ** 20;
const count = Number(process.argv[2] ?? 2000);

interface Tally {
  readonly read: number;
  readonly refused: number;
  readonly crashed: readonly string[];
  readonly late: readonly string[];
  readonly heavy: readonly string[];
  readonly longestMs: number;
  readonly mostBytes: number;
}

class Reader {
  private child: ChildProcess | null = null;
  private idle = 0;

  private start(): ChildProcess {
    const file = path.join(root, 'scripts/drill/read-process.ts');
    return (this.child ??= fork(file, {
      execArgv: ['--import', 'tsx', '--expose-gc'],
      serialization: 'advanced',
    }));
  }

  close(): void {
    this.child?.kill('SIGKILL');
    this.child = null;
  }

  /**
   * Reads one file. @returns what came of it, how long it took and what memory it took beyond the
   * idle reader's
   */
  read(order: ReadOrder): Promise<{ reply: ReadReply | 'late'; ms: number; bytes: number }> {
    const child = this.start();
    return new Promise((resolve) => {
      const began = Date.now();
      let most = 0;
      const look = (): void => {
        if (child.exitCode === null && child.signalCode === null)
          most = Math.max(most, residentBytes(child.pid ?? null));
      };
      const watching = setInterval(look, 20);
      const end = (reply: ReadReply | 'late'): void => {
        look();
        clearInterval(watching);
        clearTimeout(late);
        child.removeAllListeners();
        this.idle ||= most;
        resolve({ reply, ms: Date.now() - began, bytes: Math.max(0, most - this.idle) });
      };
      const late = setTimeout(() => {
        this.close();
        end('late');
      }, LONGEST_MS);
      child.once('message', (reply: ReadReply) => {
        end(reply);
      });
      child.once('exit', () => {
        this.child = null;
        end({ outcome: 'crashed', message: 'the process ended' });
      });
      child.send(order);
    });
  }
}

async function drill(
  kind: ReadOrder['kind'],
  files: readonly (readonly [string, (seed: number) => Uint8Array<ArrayBuffer>])[],
): Promise<Tally> {
  const tally = {
    read: 0,
    refused: 0,
    crashed: [] as string[],
    late: [] as string[],
    heavy: [] as string[],
    longestMs: 0,
    mostBytes: 0,
  };
  const reader = new Reader();
  const [first] = files;
  // What the process takes by itself, and what it takes to start, is nobody's fault.
  if (first) await reader.read({ kind, bytes: first[1](0) });
  for (let seed = 1; seed <= count; seed++) {
    const [name, make] = files[seed % files.length] ?? ['', () => new Uint8Array()];
    const { reply, ms, bytes } = await reader.read({ kind, bytes: make(seed) });
    const label = `${name}, seed ${String(seed)}`;
    tally.longestMs = Math.max(tally.longestMs, ms);
    tally.mostBytes = Math.max(tally.mostBytes, bytes);
    if (reply === 'late') tally.late.push(label);
    else if (reply.outcome === 'crashed') tally.crashed.push(`${label}: ${reply.message}`);
    else tally[reply.outcome]++;
    if (bytes > MOST_BYTES) tally.heavy.push(label);
  }
  reader.close();
  return tally;
}

function report(
  name: string,
  { read, refused, crashed, late, heavy, longestMs, mostBytes }: Tally,
): void {
  console.log(
    `${name}: ${String(count)} files, ${String(read)} read, ${String(refused)} refused in words`,
  );
  console.log(
    `  crashed ${String(crashed.length)}, over 5 s ${String(late.length)}, over 500 MB ` +
      String(heavy.length),
  );
  console.log(
    `  longest ${String(longestMs)} ms, most memory beyond the idle reader ` +
      `${String(Math.round(mostBytes / 2 ** 20))} MB`,
  );
  for (const each of [...crashed, ...late, ...heavy].slice(0, 20)) console.log(`    ${each}`);
}

const pixel = (x: number, y: number): readonly number[] => [x / 40, y / 30, 0.5, 1];
const rgba = Uint8Array.from({ length: 40 * 30 * 4 }, (_, k) => (k * 37) & 255);
const images: readonly (readonly [string, Uint8Array])[] = [
  ['PNG', new Uint8Array(encodePng({ width: 40, height: 30, channels: 4, depth: 8, data: rgba }))],
  ['JPEG', new Uint8Array(encodeJpeg({ width: 40, height: 30, data: rgba }, 80).data)],
  ['OpenEXR', writeExr(40, 30, pixel, { half: true, zip: true })],
  ['OpenEXR, plain', writeExr(40, 30, pixel, {})],
  ['Radiance', writeRadiance(40, 30, pixel)],
];
const obj = new TextEncoder().encode(
  'o box\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nvt 0 0\nvt 1 0\nvt 0 1\nvn 0 0 1\nf 1/1/1 ' +
    '2/2/1 3/3/1\nf 1//1 2//1 4//1\nf -4 -3 -2 -1\n',
);
const models = readdirSync(path.join(root, 'assets/models')).filter((name) =>
  name.endsWith('.glb'),
);
const small = models
  .map(
    (name) => [name, new Uint8Array(readFileSync(path.join(root, 'assets/models', name)))] as const,
  )
  .sort(([, a], [, b]) => a.length - b.length)
  .slice(0, 2);

report(
  'Images',
  await drill(
    'image',
    images.map(([name, bytes]) => [name, (seed) => mutate(bytes, seed)] as const),
  ),
);
report(
  'Models',
  await drill('model', [
    ...small.flatMap(([name, bytes]) => [
      [name, (seed: number) => mutate(bytes, seed)] as const,
      [`${name}, description`, (seed: number) => mutateDescription(bytes, seed)] as const,
    ]),
    ['OBJ', (seed: number) => mutate(obj, seed)] as const,
  ]),
);
