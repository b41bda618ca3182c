/** Free ports on loopback. */
import { createServer } from 'node:net';

/**
 * @param wanted 0 for any @returns the port, free at this moment; null where the one wanted is
 *   taken
 */
function tryPort(wanted: number): Promise<number | null> {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => {
      resolve(null);
    });
    server.listen(wanted, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => {
        resolve(address && typeof address === 'object' ? address.port : null);
      });
    });
  });
}

/**
 * @param kept the one used before, which is taken again where it is free
 * @param others ports that are spoken for, though nothing listens there yet
 */
export async function freePort(kept?: number, others: readonly number[] = []): Promise<number> {
  for (let round = 0; round < 20; round++) {
    const port = await tryPort(round === 0 ? (kept ?? 0) : 0);
    if (port !== null && !others.includes(port)) return port;
  }
  throw new Error('No port of this machine is free on 127.0.0.1.');
}
