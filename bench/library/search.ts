/** What a search of the library costs over HTTP, beside the least that any answer costs. */
import { execFile } from 'node:child_process';
import { createServer } from 'node:http';
import type { IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { promisify } from 'node:util';
import { sql } from 'drizzle-orm';
import { searchLibrary as searchRoute } from '@/contract/library';
import { answers, defineRoute } from '@/contract/route';
import { record, whole } from '@/contract/forms';
import { signIn } from '@/contract/session';
import { database } from '@/db/client';
import { serve } from '@/server/http/serve';
import { searchLibrary } from '@/server/library';
import { signInWith } from './session';
import { seedLibrary } from './seed';
import { sized } from '../size';

/** A signed-in answer with `select 1`: nothing that asks the database costs less. */
const least = serve(
  defineRoute('GET', '/api/health', {
    who: { audience: 'signed-in' },
    answer: answers(record({ one: whole(1) })),
  }),
  async () => {
    await database().execute(sql`select 1`);
    return { one: 1 };
  },
);
const search = serve(searchRoute, ({ user, query }) => searchLibrary(user, query));

function answerer(): ReturnType<typeof createServer> {
  return createServer((request: IncomingMessage, response) => {
    const url = new URL(request.url ?? '/', 'http://127.0.0.1:3000');
    const handler = url.pathname === '/one' ? least : search;
    const asked = new Request(url.pathname === '/one' ? new URL('/', url) : url, {
      headers: { cookie: request.headers.cookie ?? '' },
    });
    void handler(asked, { params: Promise.resolve({}) }).then(async (answer) => {
      response.writeHead(answer.status, { 'content-type': 'application/json' });
      response.end(Buffer.from(await answer.arrayBuffer()));
    });
  });
}

/** The 95th percentile. */
export const p95 = (times: readonly number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? NaN;

export interface SearchFigures {
  readonly entries: number;
  /** Milliseconds, 95th percentile, 8 clients at once. */
  readonly search: number;
  readonly least: number;
}

/** Seeds step by step, and measures at each step. */
export async function measureSearch(steps: readonly number[]): Promise<readonly SearchFigures[]> {
  const cookie = await signInWith(signIn);
  const server = answerer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const base = `http://127.0.0.1:${String((server.address() as AddressInfo).port)}`;
  const figures: SearchFigures[] = [];
  let from = 0;
  for (const entries of steps) {
    await seedLibrary(from, entries, 'sefa');
    from = entries;
    const clients = path.resolve(import.meta.dirname, 'clients.ts');
    const { stdout } = await promisify(execFile)(
      process.execPath,
      ['--import', 'tsx', clients, base, cookie, '8', sized('120', '4')],
      { maxBuffer: 2 ** 24 },
    );
    const { one, searches } = JSON.parse(stdout) as Record<string, readonly number[]>;
    figures.push({ entries, search: p95(searches ?? []), least: p95(one ?? []) });
  }
  server.close();
  return figures;
}
