/** The first start of a studio, with several workers at once. */
import { sql } from 'drizzle-orm';
import { database } from '@/db/client';
import { openQueue } from '@/server/jobs/queue';
import { startStudio } from './studio';

let stop: () => Promise<void>;
beforeAll(async () => {
  ({ stop } = await startStudio());
});
afterAll(() => stop());

it('is made once, by whichever of many processes comes first', async () => {
  for (let round = 0; round < 3; round++) {
    await database().execute(sql`drop schema if exists pgboss cascade`);
    const opened = await Promise.allSettled(Array.from({ length: 6 }, () => openQueue()));
    for (const each of opened)
      if (each.status === 'fulfilled') await each.value.stop({ graceful: false });
    expect(opened.map((each) => (each.status === 'rejected' ? String(each.reason) : ''))).toEqual(
      Array.from({ length: 6 }, () => ''),
    );
  }
});
