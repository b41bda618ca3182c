import { NAME_LIMITS } from '@/core/edit/naming-rule';
import type { NamingChoices } from '@/core/edit/naming-rule';
import { flag, identifier, list, matching, moment, nullable, oneOf } from './forms';
import { optional, record, text, trimmed, whole } from './forms';
import type { TypeOf } from './forms';
import { ROLES, answers, defineRoute, json } from './route';
import { projectForm } from './session';

const LIBRARIANS = { audience: 'signed-in', roles: ['librarian'] } as const;
const roleForm = oneOf(...ROLES);
const emailForm = matching(/^[^\s@]+@[^\s@]+\.[^\s@]+$/, 254);
/** Characters of a name of a person or a project at most. */
export const LONGEST_NAME = 80;
const nameForm = trimmed(LONGEST_NAME, 2);
const projectIds = list(identifier, 1000);
/** Shorter ones are guessed too soon. */
export const SHORTEST_PASSWORD = 10;
const passwordForm = text(128, SHORTEST_PASSWORD);

export const staffForm = record({
  id: identifier,
  name: text(200),
  email: text(254),
  role: roleForm,
  projects: projectIds,
  isActive: flag,
  /** Open sessions, and when one of them was last begun or renewed. */
  sessions: whole(0),
  lastSeen: nullable(moment),
});
export type StaffMember = TypeOf<typeof staffForm>;

const openInvitationForm = record({
  id: identifier,
  email: text(254),
  name: text(200),
  role: roleForm,
  projects: projectIds,
  /** Whether it sets the password of somebody who is in the studio. */
  isReset: flag,
  expiresAt: moment,
});
export type OpenInvitation = TypeOf<typeof openInvitationForm>;

const namingForm = record({
  longest: whole(...NAME_LIMITS),
  capital: flag,
  spaces: flag,
  underscores: flag,
  digits: flag,
  prefix: text(20),
});
export const rulesForm = record({
  /** null: names are only advised upon. */
  naming: nullable(namingForm) as ReturnType<typeof nullable<NamingChoices>>,
  /** Who may publish on the studio rack, and on the racks of their projects. */
  studioRack: list(roleForm, ROLES.length),
  projectRacks: list(roleForm, ROLES.length),
});
export type StudioRules = TypeOf<typeof rulesForm>;

const deedForm = record({
  id: whole(0),
  at: moment,
  actor: text(200),
  what: text(200),
  about: text(500),
});
export type Deed = TypeOf<typeof deedForm>;

/** Everybody of the studio, open invitations, projects, and the rules. */
export const listPeople = defineRoute('GET', '/api/people', {
  who: LIBRARIANS,
  answer: answers(
    record({
      people: list(staffForm, 10000),
      projects: list(projectForm, 10000),
      invitations: list(openInvitationForm, 10000),
      rules: rulesForm,
    }),
  ),
});
/** Deeds of one page. */
export const DEED_PAGE = 50;
/** What was done to people and rules, the newest first. */
export const listDeeds = defineRoute('GET', '/api/people/deeds', {
  who: LIBRARIANS,
  query: record({ before: optional(matching(/^\d{1,9}$/, 9)) }),
  answer: answers(record({ deeds: list(deedForm, DEED_PAGE), hasMore: flag })),
});

const one = record({ id: identifier });
/** A link that is told once, and until when it works. */
const linkForm = record({ id: identifier, link: text(500), expiresAt: moment });
export type MadeLink = TypeOf<typeof linkForm>;

export const inviteForm = record({
  email: emailForm,
  name: nameForm,
  role: roleForm,
  projects: projectIds,
});
export type InviteGiven = TypeOf<typeof inviteForm>;
/** Makes a link by which somebody new comes in; nothing is sent. */
export const invite = defineRoute('POST', '/api/people/invitations', {
  who: LIBRARIANS,
  body: json(inviteForm),
  answer: answers(linkForm),
  status: 201,
});
/** Makes the link of an invitation useless. */
export const withdrawInvitation = defineRoute('POST', '/api/people/invitations/:id/withdraw', {
  who: LIBRARIANS,
  params: one,
  body: json(record({})),
  answer: answers(record({})),
});
export const staffChangeForm = record({
  role: optional(roleForm),
  projects: optional(projectIds),
  isActive: optional(flag),
});
export type StaffChange = TypeOf<typeof staffChangeForm>;
/** Changes what somebody may do; a closed account keeps all that was made with it. */
export const changePerson = defineRoute('POST', '/api/people/:id/change', {
  who: LIBRARIANS,
  params: one,
  body: json(staffChangeForm),
  answer: answers(record({})),
});
/** Makes a link by which somebody sets a new password. */
export const resetPassword = defineRoute('POST', '/api/people/:id/reset', {
  who: LIBRARIANS,
  params: one,
  body: json(record({})),
  answer: answers(linkForm),
  status: 201,
});
/** Signs somebody out everywhere. */
export const endSessions = defineRoute('POST', '/api/people/:id/end-sessions', {
  who: LIBRARIANS,
  params: one,
  body: json(record({})),
  answer: answers(record({ ended: whole(0) })),
});
export const addProject = defineRoute('POST', '/api/people/projects', {
  who: LIBRARIANS,
  body: json(record({ name: nameForm })),
  answer: answers(projectForm),
  status: 201,
});
export const renameProject = defineRoute('POST', '/api/people/projects/:id', {
  who: LIBRARIANS,
  params: one,
  body: json(record({ name: nameForm })),
  answer: answers(projectForm),
});
export const setRules = defineRoute('POST', '/api/people/rules', {
  who: LIBRARIANS,
  body: json(rulesForm),
  answer: answers(record({})),
});

const secretForm = matching(/^[A-Za-z0-9_-]{20,100}$/, 100);
/** What a link is for, before it is taken up. */
export const lookAtLink = defineRoute('POST', '/api/auth/link', {
  who: { audience: 'everyone' },
  body: json(record({ secret: secretForm }), 4096),
  answer: answers(record({ email: text(254), name: text(200), isReset: flag })),
});
export const takeLinkForm = record({
  secret: secretForm,
  name: nameForm,
  password: passwordForm,
});
export type TakeLink = TypeOf<typeof takeLinkForm>;
/** Comes into the studio by a link, or sets a new password; signing in is the next step. */
export const takeLink = defineRoute('POST', '/api/auth/link/take', {
  who: { audience: 'everyone' },
  body: json(takeLinkForm, 4096),
  answer: answers(record({ email: text(254) })),
});
