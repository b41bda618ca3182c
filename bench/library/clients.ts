/** Asks a server as several people at once, in a process of its own; prints the times as JSON. */
const [base = '', cookie = '', clients = '8', requests = '120'] = process.argv.slice(2);
const WORDS = ['edge', 'rust cr', 'salt', 'moss sto', 'brass', 'ripple', 'weed', 'frost gr', ''];
const FACETS = [
  'gives:scalar,free:texture coordinates',
  'gives:colour,tag:salt',
  'follows:camera,gives:scalar',
];

/** Milliseconds of one request. */
async function time(address: string): Promise<number> {
  const began = performance.now();
  const answer = await fetch(address, { headers: { cookie } });
  await answer.arrayBuffer();
  if (!answer.ok) throw new Error(`${address}: ${String(answer.status)}`);
  return performance.now() - began;
}

const search = (k: number): string => {
  const query = WORDS[k % WORDS.length] ?? '';
  const facets = FACETS[k % FACETS.length] ?? '';
  const sort = query ? 'match' : 'use';
  return `${base}/library?${new URLSearchParams({ query, facets, sort }).toString()}`;
};

async function run(address: (k: number) => string): Promise<readonly number[]> {
  const times: number[] = [];
  await Promise.all(
    Array.from({ length: Number(clients) }, async (_, client) => {
      for (let k = 0; k < Number(requests); k++) times.push(await time(address(client * 7 + k)));
    }),
  );
  return times;
}

await run(search);
const one = await run(() => `${base}/one`);
const searches = await run(search);
process.stdout.write(JSON.stringify({ one, searches }));

export {};
