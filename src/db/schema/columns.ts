import { customType, timestamp } from 'drizzle-orm/pg-core';

/** A moment with its time zone. */
export const moment = (name: string) => timestamp(name, { withTimezone: true });
/** When a row was made. */
export const created = () => moment('created_at').notNull().defaultNow();
export const bytea = customType<{ data: Buffer; driverData: Buffer }>({
  dataType: () => 'bytea',
});
/** Words of a text as the full text search keeps them. */
export const tsvector = customType<{ data: string }>({ dataType: () => 'tsvector' });
