import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { jest } from '@jest/globals';
import { onJobChange } from '@/server/jobs/watch';

/** What has come in by the network, and what that led to, is done. */
const settle = async (holds: () => boolean): Promise<void> => {
  for (let turn = 0; turn < 5000 && !holds(); turn++) await new Promise(setImmediate);
};

it('a database that refuses is asked again once a second, not more and more often', async () => {
  // Time is moved by hand; the network and its turns are real.
  jest.useFakeTimers({ doNotFake: ['setImmediate', 'nextTick', 'performance', 'queueMicrotask'] });
  let asked = 0;
  const refusing = createServer((socket) => {
    asked++;
    socket.destroy();
  });
  await new Promise<void>((resolve) => refusing.listen(0, '127.0.0.1', resolve));
  process.env['DATABASE_URL'] =
    `postgresql://nobody:x@127.0.0.1:${String((refusing.address() as AddressInfo).port)}/postgres`;
  const leave = onJobChange(() => undefined);
  for (let second = 0; second < 5; second++) {
    const before = asked;
    await settle(() => asked > before && jest.getTimerCount() > 0);
    expect(asked).toBe(second + 1);
    // Once, however often the connection says that it ended; and not before a second has passed.
    expect(jest.getTimerCount()).toBe(1);
    jest.advanceTimersByTime(999);
    await settle(() => asked > second + 1);
    expect(asked).toBe(second + 1);
    jest.advanceTimersByTime(1);
  }
  leave();
  jest.useRealTimers();
  refusing.close();
});
