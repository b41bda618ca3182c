import { flag, oneOf, record, whole } from './forms';
import { RESPONSE, defineRoute } from './route';

export const healthForm = record({
  ok: flag,
  database: oneOf('ok', 'unreachable'),
  migrations: record({ applied: whole(0), expected: whole(0) }),
  /** Worker processes that were heard of within the last half minute. */
  workers: whole(0),
});
/** Whether the studio works: 200, or 503 with what is amiss. */
export const getHealth = defineRoute('GET', '/api/health', {
  who: { audience: 'everyone' },
  answer: RESPONSE,
});
