/**
 * Sends a studio of its own what should hold it up (bounded): oversized and invalid requests,
 * guesses of passwords, many pages at once; and measures what others notice of it. `npm run
 * drill:server`.
 */
import { once } from 'node:events';
import { request as httpRequest } from 'node:http';
import { emptyDocument } from '@/core/graph/document';
import { startOwnStudio } from './drill/own-studio';

const studio = await startOwnStudio();
const { base, password } = studio;
const JSON_TYPE = { 'Content-Type': 'application/json' };
const MB = 2 ** 20;
const percentile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[
    Math.min(values.length - 1, Math.floor(values.length * share))
  ] ?? NaN;

async function signIn(
  email: string,
  given: string,
  headers: Record<string, string> = {},
): Promise<Response> {
  return fetch(`${base}/api/auth/sign-in/email`, {
    method: 'POST',
    headers: { ...JSON_TYPE, ...headers },
    body: JSON.stringify({ email, password: given }),
  });
}
const cookie =
  (await signIn('maren@studio.example', password)).headers.get('set-cookie')?.split(';')[0] ?? '';
const made = await fetch(`${base}/api/materials`, {
  method: 'POST',
  headers: { ...JSON_TYPE, cookie },
  body: JSON.stringify({
    projectId: 'ferry',
    modelId: 'demo-tile',
    document: emptyDocument('Drill'),
  }),
});
const { id } = (await made.json()) as { id: string };
const { port } = new URL(base);

/** Streams a body of so many bytes; what the server says, however early. */
async function flood(path: string, bytes: number): Promise<number> {
  const sent = httpRequest({
    host: '127.0.0.1',
    port,
    path,
    method: 'POST',
    headers: { ...JSON_TYPE, 'Content-Length': bytes },
  });
  const answer = once(sent, 'response') as Promise<[{ statusCode: number; resume: () => void }]>;
  answer.catch(() => undefined);
  let isOver = false;
  sent.on('error', () => {
    isOver = true;
  });
  sent.on('response', () => {
    isOver = true;
  });
  sent.on('close', () => {
    isOver = true;
  });
  const chunk = Buffer.alloc(MB, 32);
  for (let left = bytes; left > 0 && !isOver; left -= chunk.length) {
    if (!sent.write(chunk.subarray(0, Math.min(left, chunk.length))))
      await Promise.race([once(sent, 'drain').catch(() => undefined), once(sent, 'close')]);
  }
  if (!isOver) sent.end();
  const [response] = await answer;
  response.resume();
  sent.destroy();
  return response.statusCode;
}

/** How long somebody else's requests take, milliseconds, while something is done. */
async function others(
  during: () => Promise<void>,
): Promise<{ readonly times: number[]; readonly took: number }> {
  const times: number[] = [];
  const work = { isOver: false };
  const asking = (async () => {
    while (!work.isOver || times.length < 40) {
      const began = performance.now();
      const answer = await fetch(`${base}/api/materials/${id}`, { headers: { cookie } });
      await answer.arrayBuffer();
      times.push(performance.now() - began);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  })();
  const began = performance.now();
  await during();
  const took = performance.now() - began;
  work.isOver = true;
  await asking;
  return { times, took };
}

async function measure(name: string, attack: () => Promise<readonly number[]>): Promise<void> {
  const { times: calm } = await others(() => new Promise((resolve) => setTimeout(resolve, 2000)));
  const before = studio.memoryOf('server');
  let most = before;
  const watching = setInterval(() => {
    most = Math.max(most, studio.memoryOf('server'));
  }, 50);
  const pid = studio.pidOf('server');
  let statuses: readonly number[] = [];
  const { times, took } = await others(async () => {
    statuses = await attack();
  });
  clearInterval(watching);
  const [quiet, busy] = [percentile(calm, 0.95), percentile(times, 0.95)];
  console.log(
    `${name}: answered ${[...new Set(statuses)].join(', ')} within ${took.toFixed(0)} ms`,
  );
  console.log(
    `  others’ p95 ${busy.toFixed(0)} ms against ${quiet.toFixed(0)} ms undisturbed ` +
      `(${(busy / quiet).toFixed(2)} ×), longest ${Math.max(...times).toFixed(0)} ms; memory ` +
      `+${((most - before) / MB).toFixed(0)} MB; ` +
      (studio.pidOf('server') === pid ? 'the server ran on' : 'THE SERVER ENDED'),
  );
}

const item = '{"no":1},';
const marked = {
  ...emptyDocument('x'),
  network: { nodes: [], strands: [], regions: [], notes: ['HERE'] },
};
const notes = item.repeat(Math.floor((7.9 * MB) / item.length)).slice(0, -1);
const invalid = JSON.stringify({ base: 1, modelId: 'demo-tile', document: marked }).replace(
  '"HERE"',
  notes,
);
const put = async (): Promise<number> =>
  (
    await fetch(`${base}/api/materials/${id}`, {
      method: 'PUT',
      headers: { ...JSON_TYPE, cookie },
      body: invalid,
    })
  ).status;
// Threads start once.
await put();
await measure(`an invalid document of ${(invalid.length / MB).toFixed(1)} MB`, async () => [
  await put(),
]);
await measure('six bodies of 480 MB to the sign-in', () =>
  Promise.all(
    Array.from({ length: 6 }, () => flood('/api/auth/sign-in/email', 480 * MB).catch(() => 0)),
  ),
);

const guesses = await Promise.all(
  Array.from({ length: 120 }, (_, k) =>
    signIn('ilo@studio.example', `guess ${String(k)}`, {
      'X-Forwarded-For': `10.9.${String(k >> 4)}.${String(k)}`,
    }).then(({ status }) => status),
  ),
);
console.log(
  '120 wrong passwords with changing forwarded addresses: ' +
    `${String(guesses.filter((status) => status === 401).length)} tried, ` +
    `${String(guesses.filter((status) => status === 429).length)} refused unread`,
);

const pages = await Promise.all(
  Array.from({ length: 200 }, () =>
    fetch(`${base}/materials`, { headers: { cookie } }).then(async (answer) => {
      await answer.text();
      return answer.status;
    }),
  ),
);
const counts = [...new Set(pages)].map(
  (status) => `${String(pages.filter((each) => each === status).length)} × ${String(status)}`,
);
console.log(`200 pages at once: ${counts.join(', ')}`);
studio.kill('database');
const seen = new Map<number, number>();
let said = '';
for (const until = Date.now() + 6000; Date.now() < until;) {
  const answer = await fetch(`${base}/materials`, { headers: { cookie } });
  const text = await answer.text();
  seen.set(answer.status, (seen.get(answer.status) ?? 0) + 1);
  if (answer.status === 503)
    said =
      `Retry-After ${answer.headers.get('retry-after') ?? 'none'}, ` +
      (text.includes('tries again by itself') ? 'says so' : 'SAYS NOTHING');
}
const answered = [...seen]
  .map(([status, times]) => `${String(times)} × ${String(status)}`)
  .join(', ');
console.log(`pages while the database is killed and comes back: ${answered}; ${said}`);
await studio.stop();
process.exit(0);
