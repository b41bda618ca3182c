import { AppError } from '@/core/base/diagnostic';
import type { Role } from '@/contract/route';
import { inviteForm } from '@/contract/people';
import type { InviteGiven } from '@/contract/people';
import { closeDatabase, migrateDatabase } from '@/db/client';
import { findByEmail } from '@/db/queries/staff';
import * as people from '@/server/people';
import { UsageError } from './arguments';
import type { Arguments } from './arguments';
import { migrations, openDatabase, publicAddress } from './database';

const ACTOR = { name: 'The command line' };
type Tell = (text: string) => void;

async function list(print: Tell): Promise<void> {
  const { people: all, projects } = await people.listPeople();
  if (all.length === 0) print('There is nobody yet.');
  for (const { email, name, role, isActive, projects: own } of all) {
    const names = projects.filter(({ id }) => own.includes(id)).map((each) => each.name);
    const closed = isActive ? '' : '  closed';
    print(`${email}  ${role}  ${name}  ${names.join(', ') || 'no project'}${closed}`);
  }
}

/** Projects by name or id; those there are none of are made. */
async function projectsFor(names: readonly string[]): Promise<readonly string[]> {
  const ids: string[] = [];
  for (const name of names) {
    const { projects } = await people.listPeople();
    const known = projects.find((each) => each.id === name || each.name === name);
    ids.push((known ?? (await people.addProject(ACTOR, name))).id);
  }
  return ids;
}

async function invite(
  [email = '', name = '', role = '', ...projects]: readonly string[],
  print: Tell,
): Promise<void> {
  const given = { email, name, role: role as Role, projects: [] as readonly string[] };
  const { error } = inviteForm.validate(given) as { error?: Error };
  if (error) throw new UsageError(`${error.message}. Nobody was invited.`);
  const asked: InviteGiven = { ...given, projects: await projectsFor(projects) };
  const { link, expiresAt } = await people.invite(ACTOR, asked);
  print(`${name} comes in by this link, once, until ${expiresAt}:\n${link}`);
}

async function idOf(email: string): Promise<string> {
  const person = await findByEmail(email.toLowerCase());
  if (person) return person.id;
  throw new AppError('person.not-found', `There is nobody with the address ${email}.`, '');
}

async function act(
  what: string,
  [email = '', role = '']: readonly string[],
  print: Tell,
): Promise<void> {
  const id = await idOf(email);
  if (what === 'password') {
    const { link, expiresAt } = await people.resetPassword(ACTOR, id);
    print(`${email} sets a new password by this link, once, until ${expiresAt}:\n${link}`);
    return;
  }
  if (what === 'role') await people.changePerson(ACTOR, id, { role: role as Role });
  else await people.changePerson(ACTOR, id, { isActive: what === 'open' });
  print(`${email}: ${what === 'role' ? `now ${role}` : what === 'open' ? 'open' : 'closed'}.`);
}

const ROLE_NAMES = ['artist', 'author', 'librarian'];

/** Who is in the studio, links, roles and accounts; also of a studio that nobody is in yet. */
export async function runPeople({ positionals }: Arguments, print: Tell): Promise<number> {
  const [what = 'list', ...rest] = positionals;
  if (!['list', 'invite', 'password', 'role', 'close', 'open'].includes(what))
    throw new UsageError(`There is nothing called “people ${what}”.`);
  if (what === 'role' && !ROLE_NAMES.includes(rest[1] ?? ''))
    throw new UsageError(`A role is one of ${ROLE_NAMES.join(', ')}.`);
  if (what !== 'list' && rest.length === 0) throw new UsageError('Name an e-mail address.');
  const database = await openDatabase();
  process.env['DATABASE_URL'] = database.url;
  process.env['PUBLIC_URL'] ??= publicAddress();
  try {
    await migrateDatabase(migrations());
    if (what === 'list') await list(print);
    else if (what === 'invite') await invite(rest, print);
    else await act(what, rest, print);
  } finally {
    await closeDatabase();
    database.close();
  }
  return 0;
}
