/**
 * Adds a person to the studio, or gives one a new password. `npm run person -- add EMAIL NAME ROLE
 * [PROJECT …]`, `npm run person -- password EMAIL`. The password is made here and printed once.
 */
import { randomBytes, randomUUID } from 'node:crypto';
import { hashPassword } from 'better-auth/crypto';
import Joi from 'joi';
import { ROLES } from '@/contract/route';
import { closeDatabase } from '@/db/client';
import { insertPerson, insertProject, setPassword } from '@/db/queries/seeding';
import { openDatabase } from '../cli/database';

const USAGE = `Usage:
  npm run person -- add EMAIL "NAME" ${ROLES.join('|')} [PROJECT ...]
  npm run person -- password EMAIL`;

const personForm = Joi.object({
  email: Joi.string().email({ tlds: false }).max(254).required(),
  name: Joi.string().min(2).max(80).required(),
  role: Joi.valid(...ROLES).required(),
  projects: Joi.array()
    .items(Joi.string().pattern(/^[A-Za-z0-9_-]{1,60}$/))
    .max(100),
});

async function add(
  email: string,
  name: string,
  role: string,
  projects: readonly string[],
  hash: string,
): Promise<void> {
  const { error } = personForm.validate({ email, name, role, projects }) as { error?: Error };
  if (error) throw new Error(`${error.message}. Nobody was added.\n\n${USAGE}`);
  for (const id of projects) await insertProject({ id, name: id });
  await insertPerson({ id: randomUUID(), name, email, role, passwordHash: hash, projects });
}

async function main([
  command,
  email = '',
  name = '',
  role = '',
  ...projects
]: readonly string[]): Promise<void> {
  if ((command !== 'add' && command !== 'password') || !email) throw new Error(USAGE);
  const account = email.toLowerCase();
  const password = randomBytes(9).toString('base64url');
  const hash = await hashPassword(password);
  const database = await openDatabase();
  process.env['DATABASE_URL'] = database.url;
  try {
    if (command === 'add') await add(account, name, role, projects, hash);
    else if (!(await setPassword(account, hash)))
      throw new Error(`There is nobody with the address ${account}.`);
    console.log(`${account} signs in with the password ${password}`);
  } finally {
    await closeDatabase();
    database.close();
  }
}

main(process.argv.slice(2)).catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  process.exitCode = 1;
});
