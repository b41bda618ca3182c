import type { NamingChoices } from '@/core/edit/naming-rule';
import { flag, identifier, list, nullable, object, oneOf, record, text } from './forms';
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

const sessionForm = record({
  user: personForm,
  projects: list(projectForm, 10000),
  /** The rule for names on racks that others see; null where names are only advised upon. */
  naming: nullable(object<NamingChoices>()),
  /** Whether one may publish on the studio's rack, and on those of one's projects. */
  publishes: record({ studio: flag, projects: flag }),
});
/** Who is signed in, the projects they are members of, and the rules that hold for them. */
export const getSession = defineRoute('GET', '/api/session', {
  who: { audience: 'signed-in' },
  answer: answers(sessionForm),
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
