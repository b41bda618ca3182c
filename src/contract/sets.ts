import { flag, identifier, list, optional, record, trimmed } from './forms';
import { answers, defineRoute, json } from './route';

/** Most sets of a project, and most materials put into one at a time. */
export const MOST_SETS = 200,
  MOST_AT_ONCE = 500;
/** Characters of a set's name at most. */
export const LONGEST_SET_NAME = 80;
const NAME = trimmed(LONGEST_SET_NAME, 1);
const one = record({ id: identifier });

/** Makes a set in a project one is a member of; 409 `set.name-taken` where it has one so named. */
export const createSet = defineRoute('POST', '/api/sets', {
  who: { audience: 'members' },
  body: json(record({ projectId: identifier, name: NAME })),
  answer: answers(record({ id: identifier })),
  status: 201,
});

/** Renames a set or takes it apart; its materials stay. 409 `set.name-taken` as above. */
export const arrangeSet = defineRoute('POST', '/api/sets/:id/arrange', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({ name: optional(NAME), isRemoved: optional(flag) })),
  answer: answers(record({ id: identifier })),
});

/**
 * Puts materials of its project into a set and takes others out; doing it twice changes nothing.
 * Materials of other projects are passed over.
 */
export const fillSet = defineRoute('POST', '/api/sets/:id/materials', {
  who: { audience: 'readers' },
  params: one,
  body: json(
    record({
      add: list(identifier, MOST_AT_ONCE),
      remove: list(identifier, MOST_AT_ONCE),
    }),
  ),
  answer: answers(record({ id: identifier })),
});
