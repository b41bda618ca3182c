import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { freePort } from '../../scripts/ports';

test('the port used before is taken again, unless it is in use or spoken for', async () => {
  const server = createServer();
  const kept = await freePort();
  expect(await freePort(kept)).toBe(kept);
  expect(await freePort(kept, [kept])).not.toBe(kept);
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', resolve);
  });
  const { port } = server.address() as AddressInfo;
  const other = await freePort(port);
  expect(other).toBeGreaterThan(0);
  expect(other).not.toBe(port);
  await new Promise((resolve) => {
    server.close(resolve);
  });
});
