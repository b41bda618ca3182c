/**
 * A member of a record by a name that came from outside; undefined where the record itself has
 * none. Ids may be `constructor` or `toString`: what objects inherit is never a member.
 */
export const own = <T>(
  record: Readonly<Record<string, T>> | undefined,
  name: string,
): T | undefined => (record && Object.hasOwn(record, name) ? record[name] : undefined);
