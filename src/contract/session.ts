import { identifier, list, oneOf, record, text } from './forms';
import type { TypeOf } from './forms';
import { ROLES, RESPONSE, answers, defineRoute, json } from './route';

export const personForm = record({
  id: identifier,
  name: text(200),
  email: text(254),
  role: oneOf(...ROLES),
});
export const projectForm = record({ id: identifier, name: text(200) });
export type Project = TypeOf<typeof projectForm>;

/** Who is signed in, and the projects they are members of. */
export const getSession = defineRoute('GET', '/api/session', {
  who: { audience: 'signed-in' },
  answer: answers(record({ user: personForm, projects: list(projectForm, 10000) })),
});

/** The longest password; longer ones would only cost time to hash. */
const LONGEST_PASSWORD = 128;
export const credentialsForm = record({
  email: text(254, 3),
  password: text(LONGEST_PASSWORD, 1),
});
export type Credentials = TypeOf<typeof credentialsForm>;
/** Starts a session; its cookie comes with the answer. */
export const signIn = defineRoute('POST', '/api/auth/sign-in/email', {
  who: { audience: 'everyone' },
  body: json(credentialsForm, 4096),
  answer: RESPONSE,
});
/** Ends the session. */
export const signOut = defineRoute('POST', '/api/auth/sign-out', {
  who: { audience: 'signed-in' },
  body: json(record({}), 4096),
  answer: RESPONSE,
});
