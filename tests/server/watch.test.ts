import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { onJobChange } from '@/server/jobs/watch';

it('a database that refuses is asked again once a second, not more and more often', async () => {
  let asked = 0;
  const refusing = createServer((socket) => {
    asked++;
    socket.destroy();
  });
  await new Promise<void>((resolve) => refusing.listen(0, '127.0.0.1', resolve));
  process.env['DATABASE_URL'] =
    `postgresql://nobody:x@127.0.0.1:${String((refusing.address() as AddressInfo).port)}/postgres`;
  const leave = onJobChange(() => undefined);
  await new Promise((resolve) => setTimeout(resolve, 5500));
  leave();
  refusing.close();
  expect(asked).toBeGreaterThanOrEqual(4);
  expect(asked).toBeLessThanOrEqual(7);
});
