/** What a large material costs the server's memory on its way out and in, as a file. */
import { randomBytes } from 'node:crypto';
import { readFileSync, readdirSync, readlinkSync } from 'node:fs';
import { setTimeout } from 'node:timers/promises';
import { storeBlob } from '@/db/queries/blobs';
import { insertModel } from '@/db/queries/models';
import { closeDatabase } from '@/db/client';
import { connectToStudio, openStudio } from './own-studio';
import { largeNetwork } from '../core/network';
import { sized } from '../size';

const MODEL_BYTES = sized(50, 1) * 1000 * 1000;
const WATCH_MS = 20;
/** What was held for the step before is given back meanwhile. */
const SETTLE_MS = sized(5000, 100);

/** A GLB that says it has so many bytes, most of them of no use: nothing parses it on the way. */
function largeModel(): Buffer {
  const json = Buffer.from('{"asset":{"version":"2.0"}}'.padEnd(28, ' '));
  const glb = Buffer.alloc(MODEL_BYTES);
  const head = [0x46546c67, 2, MODEL_BYTES, json.length, 0x4e4f534a];
  head.forEach((word, k) => glb.writeUInt32LE(word, k * 4));
  json.copy(glb, 20);
  const rest = MODEL_BYTES - 20 - json.length - 8;
  glb.writeUInt32LE(rest, 20 + json.length);
  glb.writeUInt32LE(0x004e4942, 24 + json.length);
  randomBytes(rest).copy(glb, 28 + json.length);
  return glb;
}

/** The process that listens at a port of this machine. */
function processAt(port: number): number {
  const hex = port.toString(16).toUpperCase().padStart(4, '0');
  const lines = ['/proc/net/tcp', '/proc/net/tcp6'].flatMap((file) =>
    readFileSync(file, 'utf8').split('\n'),
  );
  const fields = lines.map((line) => line.trim().split(/\s+/));
  const own = fields.find((each) => each[1]?.endsWith(`:${hex}`) && each[3] === '0A');
  const socket = `socket:[${own?.[9] ?? ''}]`;
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name)))
    try {
      const files = readdirSync(`/proc/${pid}/fd`);
      if (files.some((fd) => readlinkSync(`/proc/${pid}/fd/${fd}`) === socket)) return Number(pid);
    } catch {
      // It ended meanwhile, or a file of it was closed.
    }
  throw new Error(`nothing listens at ${String(port)}`);
}

const residentBytes = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${String(pid)}/status`, 'utf8'))?.[1]) * 1024;

/** By how much the memory of a process grows while something is done, bytes, and for how long. */
async function watchMemory<T>(
  pid: number,
  act: () => Promise<T>,
): Promise<{ readonly result: T; readonly grown: number; readonly seconds: number }> {
  const before = residentBytes(pid);
  let most = before;
  const timer = setInterval(() => {
    most = Math.max(most, residentBytes(pid));
  }, WATCH_MS);
  const began = performance.now();
  try {
    const result = await act();
    return { result, grown: most - before, seconds: (performance.now() - began) / 1000 };
  } finally {
    clearInterval(timer);
  }
}

export interface FileFigures {
  readonly megabytes: number;
  /** By how much the server's memory grows, bytes, and seconds. */
  readonly out: { readonly grown: number; readonly seconds: number };
  readonly in: { readonly grown: number; readonly seconds: number };
}

export async function measureFiles(): Promise<FileFigures> {
  await connectToStudio();
  const studio = await openStudio();
  const { page, base, browser } = studio;
  try {
    const cookies = await page.context().cookies();
    const cookie = cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
    const headers = { origin: base, cookie };
    const ask = async (
      address: string,
      init: Omit<RequestInit, 'headers'> & { headers?: Record<string, string> } = {},
    ): Promise<Response> => {
      const answer = await fetch(`${base}${address}`, {
        ...init,
        headers: { ...headers, ...init.headers },
      });
      if (!answer.ok) throw new Error(`${address}: ${await answer.text()}`);
      return answer;
    };
    const session = (await (await ask('/api/session')).json()) as { projects: { id: string }[] };
    const [from, to] = session.projects.map(({ id }) => id);
    const binary = { 'content-type': 'application/octet-stream' };
    // Into the database at once: what the server holds of an upload would hide what follows.
    const model = { id: `bench-model-${String(Date.now())}` };
    const blobHash = await storeBlob(largeModel(), 'model/gltf-binary');
    await insertModel({
      ...model,
      name: 'Bench',
      projectId: from ?? null,
      blobHash,
      ownerId: null,
    });
    const document = { ...largeNetwork(24), name: `Large ${String(Date.now())}` };
    const made = await ask('/api/materials', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ projectId: from, modelId: model.id, document }),
    });
    const { id } = (await made.json()) as { id: string };
    const pid = processAt(Number(new URL(base).port));
    await setTimeout(SETTLE_MS);
    const out = await watchMemory(pid, async () =>
      (await ask(`/api/materials/${id}/file?model=yes`)).arrayBuffer(),
    );
    await setTimeout(SETTLE_MS);
    const into = await watchMemory(pid, () =>
      ask(`/api/materials/import?project=${to ?? from ?? ''}`, {
        method: 'POST',
        headers: binary,
        body: out.result,
      }),
    );
    return { megabytes: out.result.byteLength / 1e6, out, in: into };
  } finally {
    await closeDatabase();
    await browser.close();
  }
}
