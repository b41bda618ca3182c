import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { hashPassword } from 'better-auth/crypto';
import { AppError } from '@/core/base/diagnostic';
import { DEED_PAGE } from '@/contract/people';
import type { InviteGiven, MadeLink, StaffChange, StudioRules, TakeLink } from '@/contract/people';
import { ROLES } from '@/contract/route';
import type { Role } from '@/contract/route';
import type { Project } from '@/contract/session';
import { isAlreadyThere } from '@/db/client';
import { findPerson } from '@/db/queries/people';
import { insertProject } from '@/db/queries/seeding';
import * as staff from '@/db/queries/staff';
import { inTurn } from '@/db/queries/turns';
import { forgetSessions } from './authentication';
import { keepRules, readRules } from './rules';
import { publicUrl } from './settings';

/** Who does something to people and rules: somebody, or the command line. */
export interface Actor {
  readonly name: string;
}
const UNCHANGED = 'Nothing was changed.';
/** Days a link works: somebody new may be away, a password is needed now. */
const DAYS = { invitation: 7, password: 1 } as const;

const roleOf = (role: string): Role => ROLES.find((each) => each === role) ?? 'artist';
const notFound = (): AppError =>
  new AppError('person.not-found', 'There is nobody like that.', 'Reload the page.', {
    kept: UNCHANGED,
    status: 404,
  });

/** Everybody, open links, projects and rules. */
export async function listPeople() {
  const [people, projects, invitations, rules] = await Promise.all([
    staff.listStaff(),
    staff.listAllProjects(),
    staff.listInvitations(),
    readRules(),
  ]);
  return {
    people: people.map(({ closedAt, role, ...person }) => ({
      ...person,
      role: roleOf(role),
      isActive: closedAt === null,
    })),
    projects,
    invitations: invitations.map(({ id, email, name, role, projects: of, userId, expiresAt }) => ({
      id,
      email,
      name,
      role: roleOf(role),
      projects: of,
      isReset: userId !== null,
      expiresAt: expiresAt.toISOString(),
    })),
    rules,
  };
}

/** What was done, the newest first. */
export async function listDeeds(before: string | undefined) {
  const found = await staff.listDeeds(before ? Number(before) : null, DEED_PAGE + 1);
  return {
    deeds: found.slice(0, DEED_PAGE).map(({ createdAt, ...each }) => ({
      ...each,
      at: createdAt.toISOString(),
    })),
    hasMore: found.length > DEED_PAGE,
  };
}

const hashOf = (secret: string): string => createHash('sha256').update(secret).digest('hex');

/** Makes a link whose secret is told once; the part behind # reaches no log. */
async function makeLink(
  given: Omit<staff.NewInvitation, 'id' | 'secretHash' | 'expiresAt'>,
  days: number,
): Promise<MadeLink> {
  const secret = randomBytes(32).toString('base64url');
  const id = randomUUID();
  const expiresAt = new Date(Date.now() + days * 86_400_000);
  await staff.keepInvitation({ ...given, id, secretHash: hashOf(secret), expiresAt });
  return { id, link: `${publicUrl()}/join#${secret}`, expiresAt: expiresAt.toISOString() };
}

/** @throws AppError where the address is somebody's already */
export async function invite(actor: Actor, given: InviteGiven): Promise<MadeLink> {
  const email = given.email.toLowerCase();
  if (await staff.findByEmail(email))
    throw new AppError(
      'person.exists',
      `${email} belongs to somebody of the studio already.`,
      'Give them a new password, or open their account again.',
      { kept: 'Nobody was invited.', status: 409 },
    );
  const made = await makeLink({ ...given, email, userId: null }, DAYS.invitation);
  await staff.noteDeed(actor.name, 'invited', `${given.name}, ${email}, as ${given.role}`);
  return made;
}

export async function withdrawInvitation(actor: Actor, id: string): Promise<object> {
  const email = await staff.dropInvitation(id);
  if (email === null)
    throw new AppError(
      'invitation.used',
      'This link was used already, or withdrawn.',
      'Reload the page.',
      { kept: UNCHANGED, status: 409 },
    );
  await staff.noteDeed(actor.name, 'withdrew a link', email);
  return {};
}

/** A change in words, with the names that projects have now. */
async function changeWords({ role, projects, isActive }: StaffChange): Promise<string> {
  const names = (await staff.listAllProjects())
    .filter(({ id }) => projects?.includes(id))
    .map(({ name }) => name);
  return [
    ...(role ? [`now ${role}`] : []),
    ...(projects ? [`projects: ${names.join(', ') || 'none'}`] : []),
    ...(isActive === undefined ? [] : [isActive ? 'account opened' : 'account closed']),
  ].join('; ');
}

/** @throws AppError for the last librarian, and where there is nobody of that id */
export async function changePerson(actor: Actor, id: string, change: StaffChange): Promise<object> {
  const person = await findPerson(id);
  const outcome = person ? await staff.changeStaff(id, change) : 'not found';
  if (outcome === 'not found' || !person) throw notFound();
  if (outcome === 'last librarian')
    throw new AppError(
      'person.last-librarian',
      `${person.name} is the last librarian: nobody could administer the studio any more.`,
      'Make somebody else a librarian first.',
      { kept: UNCHANGED, status: 409 },
    );
  forgetSessions();
  await staff.noteDeed(actor.name, 'changed', `${person.name}: ${await changeWords(change)}`);
  return {};
}

/** A link by which somebody sets a new password; the old one works until then. */
export async function resetPassword(actor: Actor, id: string): Promise<MadeLink> {
  const person = await findPerson(id);
  if (!person) throw notFound();
  const { name, email, role } = person;
  const made = await makeLink({ name, email, role, projects: [], userId: id }, DAYS.password);
  await staff.noteDeed(actor.name, 'made a link for a new password', name);
  return made;
}

export async function endSessions(actor: Actor, id: string): Promise<{ ended: number }> {
  const person = await findPerson(id);
  if (!person) throw notFound();
  const ended = await staff.dropSessions(id);
  forgetSessions();
  await staff.noteDeed(actor.name, 'ended all sessions', person.name);
  return { ended };
}

/** @throws AppError where another project has the name */
async function assertProjectName(name: string, id: string): Promise<void> {
  const known = await staff.listAllProjects();
  const isSame = (each: Project): boolean => each.name.toLowerCase() === name.toLowerCase();
  if (known.some((each) => each.id !== id && isSame(each)))
    throw new AppError('project.exists', `There is a project “${name}”.`, 'Choose another name.', {
      kept: UNCHANGED,
      status: 409,
    });
}
/** Of two projects of one name that are made at once, one is refused. */
const naming = <T>(work: () => Promise<T>): Promise<T> => inTurn('names of projects', work);

export function addProject(actor: Actor, name: string): Promise<Project> {
  return naming(async () => {
    const project = { id: randomUUID(), name };
    await assertProjectName(name, project.id);
    await insertProject(project);
    await staff.noteDeed(actor.name, 'made a project', name);
    return project;
  });
}

/** @throws AppError where there is no such project, or another one has the name */
export function renameProject(actor: Actor, id: string, name: string): Promise<Project> {
  return naming(async () => {
    const before = (await staff.listAllProjects()).find((each) => each.id === id);
    if (!before)
      throw new AppError('project.not-found', 'There is no such project.', 'Reload the page.', {
        kept: UNCHANGED,
        status: 404,
      });
    await assertProjectName(name, id);
    await staff.renameProject({ id, name });
    await staff.noteDeed(actor.name, 'renamed a project', `${before.name}, now ${name}`);
    return { id, name };
  });
}

export async function setRules(actor: Actor, rules: StudioRules): Promise<object> {
  await keepRules(rules);
  const naming = rules.naming ? 'names are held to a rule' : 'names are free';
  await staff.noteDeed(
    actor.name,
    'set the rules',
    `${naming}; studio rack: ${rules.studioRack.join(', ') || 'nobody'}; ` +
      `projects’ racks: ${rules.projectRacks.join(', ') || 'nobody'}`,
  );
  return {};
}

const uselessLink = (): AppError =>
  new AppError(
    'link.useless',
    'This link was used already, withdrawn, or is too old.',
    'Ask a librarian for a new one.',
    { status: 410 },
  );

/** What a link is for. @throws AppError (410) where it is of no use any more */
export async function lookAtLink(secret: string) {
  const found = await staff.findInvitation(hashOf(secret));
  if (!found || found.usedAt !== null || found.expiresAt.getTime() <= Date.now())
    throw uselessLink();
  return { email: found.email, name: found.name, isReset: found.userId !== null };
}

/** Takes a link up. @throws AppError (410) where it is of no use any more */
export async function takeLink({ secret, name, password }: TakeLink): Promise<{ email: string }> {
  const { email, isReset } = await lookAtLink(secret);
  // Hashing is slow on purpose: only for a link that works.
  const passwordHash = await hashPassword(password);
  try {
    const given = { id: randomUUID(), name, passwordHash };
    if (!(await staff.takeInvitation(hashOf(secret), given))) throw uselessLink();
  } catch (error) {
    // Somebody came in under the same address another way.
    if (isAlreadyThere(error)) throw uselessLink();
    throw error;
  }
  forgetSessions();
  await staff.noteDeed(name, isReset ? 'set a new password' : 'came in by a link', email);
  return { email };
}
