/** People, links, roles and rules, against a real database. */
import { hashPassword } from 'better-auth/crypto';
import { sql } from 'drizzle-orm';
import { closeDatabase, database } from '@/db/client';
import { findByEmail, listStaff } from '@/db/queries/staff';
import { namingRule, nameFault, PLAIN_CHOICES } from '@/core/edit/naming-rule';
import type { SignedIn } from '@/server/authentication';
import * as people from '@/server/people';
import { mayPublish } from '@/server/rights';
import { USUAL_RULES, assertName, assertNewName, readRules } from '@/server/rules';
import { signIn } from '@/server/sign-in';
import { main } from '../../cli/main';
import { makePerson, startStudio } from './studio';

const PASSWORD = 'correct horse';
let studio: Awaited<ReturnType<typeof startStudio>>;
let sefa: SignedIn;
const secretOf = ({ link }: { readonly link: string }): string => link.split('#')[1] ?? '';
const invited = (email: string, projects: readonly string[] = []) =>
  people.invite(sefa, { email, name: 'Nele Brand', role: 'artist', projects });
const enter = (email: string, password: string) =>
  signIn(
    new Request('http://127.0.0.1:3000/api/auth/sign-in/email', {
      method: 'POST',
      headers: { 'x-bright-loom-address': '10.3.0.1', host: '127.0.0.1:3000' },
    }),
    { email, password },
  );
const person = async (id: string) => (await listStaff()).find((each) => each.id === id);

beforeAll(async () => {
  studio = await startStudio();
  sefa = await makePerson('sefa', 'librarian', ['ferry'], await hashPassword(PASSWORD));
}, 60_000);
afterAll(() => studio.stop());

it('lets somebody in by a link, once', async () => {
  const made = await invited('Nele@studio.example', ['ferry', 'gone meanwhile']);
  expect(made.link).toMatch(/^http:\/\/127\.0\.0\.1:3000\/join#/);
  const secret = secretOf(made);
  expect(await people.lookAtLink(secret)).toEqual({
    email: 'nele@studio.example',
    name: 'Nele Brand',
    isReset: false,
  });
  const taken = { secret, name: 'Nele B.', password: 'long enough to keep' };
  // Two at once: one comes in.
  const both = await Promise.allSettled([people.takeLink(taken), people.takeLink(taken)]);
  expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  await expect(people.takeLink(taken)).rejects.toMatchObject({ code: 'link.useless' });
  const found = await findByEmail('nele@studio.example');
  expect(found).toMatchObject({ name: 'Nele B.', role: 'artist' });
  expect((await person(found?.id ?? ''))?.projects).toEqual(['ferry']);
  expect((await enter('nele@studio.example', 'long enough to keep')).ok).toBe(true);
  await expect(invited('nele@studio.example')).rejects.toMatchObject({ code: 'person.exists' });
});

it('makes a link useless that is withdrawn, replaced, too old or made up', async () => {
  const first = await invited('ada@studio.example');
  const second = await invited('ada@studio.example');
  await expect(people.lookAtLink(secretOf(first))).rejects.toMatchObject({ status: 410 });
  await people.withdrawInvitation(sefa, second.id);
  await expect(people.lookAtLink(secretOf(second))).rejects.toMatchObject({ status: 410 });
  await expect(people.withdrawInvitation(sefa, second.id)).rejects.toMatchObject({ status: 409 });
  const third = await invited('ada@studio.example');
  await database().execute(sql`update invitation set expires_at = now() where id = ${third.id}`);
  await expect(people.lookAtLink(secretOf(third))).rejects.toMatchObject({ status: 410 });
  const late = { secret: secretOf(third), name: 'Ada', password: 'long enough to keep' };
  await expect(people.takeLink(late)).rejects.toMatchObject({ status: 410 });
  await expect(people.lookAtLink('x'.repeat(43))).rejects.toMatchObject({ status: 410 });
});

it('never leaves a studio without a librarian, whoever leaves at once', async () => {
  await expect(people.changePerson(sefa, 'sefa', { role: 'author' })).rejects.toMatchObject({
    code: 'person.last-librarian',
  });
  await expect(people.changePerson(sefa, 'sefa', { isActive: false })).rejects.toMatchObject({
    code: 'person.last-librarian',
  });
  await makePerson('ben', 'librarian', []);
  const both = await Promise.allSettled([
    people.changePerson(sefa, 'sefa', { role: 'artist' }),
    people.changePerson(sefa, 'ben', { isActive: false }),
  ]);
  expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  await people.changePerson(sefa, 'sefa', { role: 'librarian' });
  await people.changePerson(sefa, 'ben', { isActive: true });
});

it('closes an account at once, keeps what was made, and opens it again', async () => {
  await makePerson('ilo', 'artist', ['ferry'], await hashPassword(PASSWORD));
  expect((await enter('ilo@studio.example', PASSWORD)).ok).toBe(true);
  expect((await person('ilo'))?.sessions).toBe(1);
  await people.changePerson(sefa, 'ilo', { isActive: false });
  expect(await person('ilo')).toMatchObject({ sessions: 0, projects: ['ferry'] });
  await expect(enter('ilo@studio.example', PASSWORD)).rejects.toMatchObject({
    code: 'auth.closed',
  });
  // Who does not know the password learns nothing.
  await expect(enter('ilo@studio.example', 'a guess')).rejects.toMatchObject({
    code: 'auth.wrong',
  });
  expect((await person('ilo'))?.sessions).toBe(0);
  await people.changePerson(sefa, 'ilo', { isActive: true });
  expect((await enter('ilo@studio.example', PASSWORD)).ok).toBe(true);
});

it('sets a new password by a link, and signs out everywhere', async () => {
  const made = await people.resetPassword(sefa, 'ilo');
  const secret = secretOf(made);
  await people.takeLink({ secret, name: 'Ilo', password: 'another long one' });
  expect((await person('ilo'))?.sessions).toBe(0);
  await expect(enter('ilo@studio.example', PASSWORD)).rejects.toMatchObject({ code: 'auth.wrong' });
  expect((await enter('ilo@studio.example', 'another long one')).ok).toBe(true);
  expect(await people.endSessions(sefa, 'ilo')).toEqual({ ended: 1 });
});

it('holds names to the rule once there is one, and roles to theirs', async () => {
  await assertName('studio', 'anything_goes', '');
  const naming = { ...PLAIN_CHOICES, prefix: 'Fx ', digits: false };
  await people.setRules(sefa, { naming, studioRack: ['librarian'], projectRacks: ['author'] });
  const rules = await readRules();
  await expect(assertName('studio', 'edge wear', '')).rejects.toMatchObject({ code: 'name.rule' });
  await assertName('studio', 'Fx Edge wear', '');
  await assertName('person:sefa', 'my_own', '');
  const old = { rack: 'studio', name: 'old_name' };
  await assertNewName(old, { name: 'old_name' }, '');
  await expect(assertNewName(old, { name: 'new_name' }, '')).rejects.toMatchObject({
    code: 'name.rule',
  });
  await expect(
    assertNewName({ rack: 'person:sefa', name: 'my_own' }, { rack: 'studio' }, ''),
  ).rejects.toMatchObject({ code: 'name.rule' });
  expect(nameFault('Fx Edge 2', namingRule(naming))).toContain('no digits');
  expect(mayPublish({ id: 'a', role: 'author' }, 'studio', [], rules)).toBe(false);
  expect(mayPublish({ id: 'a', role: 'artist' }, 'project:ferry', ['ferry'], rules)).toBe(false);
  expect(mayPublish({ id: 'a', role: 'artist' }, 'person:a', [], rules)).toBe(true);
  await people.setRules(sefa, USUAL_RULES);
});

it('makes and renames projects, one of a name, whoever does it at once', async () => {
  const both = await Promise.allSettled([
    people.addProject(sefa, 'Gull'),
    people.addProject(sefa, 'gull'),
  ]);
  expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  const { id } = await people.addProject(sefa, 'Ternn');
  expect(await people.renameProject(sefa, id, 'Tern')).toEqual({ id, name: 'Tern' });
  expect(await people.renameProject(sefa, id, 'TERN')).toEqual({ id, name: 'TERN' });
  const refused = { status: 409, kept: 'Nothing was changed.' };
  await expect(people.renameProject(sefa, id, 'GULL')).rejects.toMatchObject(refused);
  await expect(people.renameProject(sefa, 'none', 'Auk')).rejects.toMatchObject({ status: 404 });
  await people.changePerson(sefa, 'ilo', { projects: [id] });
  const { deeds } = await people.listDeeds(undefined);
  expect(deeds.slice(0, 3).map(({ what, about }) => `${what}: ${about}`)).toEqual([
    expect.stringMatching(/^changed: .*projects: TERN$/),
    'renamed a project: Tern, now TERN',
    'renamed a project: Ternn, now Tern',
  ]);
  await people.setRules(sefa, USUAL_RULES);
});

it('writes down what was done, and by whom', async () => {
  const { deeds } = await people.listDeeds(undefined);
  expect(deeds[0]).toMatchObject({ actor: 'sefa', what: 'set the rules' });
  expect(deeds.map(({ what }) => what)).toContain('came in by a link');
  expect(JSON.stringify(deeds)).not.toContain('join#');
});

it('is administered from the command line, too', async () => {
  const said: string[] = [];
  const run = async (...argv: readonly string[]): Promise<number> => {
    said.length = 0;
    await closeDatabase();
    return main(
      argv,
      (text) => said.push(text),
      (text) => said.push(text),
    );
  };
  expect(await run('people', 'invite', 'oda@studio.example', 'Oda', 'librarian', 'Heron')).toBe(0);
  const secret = said.join('').split('#')[1]?.trim() ?? '';
  expect((await people.lookAtLink(secret)).email).toBe('oda@studio.example');
  await people.takeLink({ secret, name: 'Oda', password: 'long enough to keep' });
  expect(await run('people', 'list')).toBe(0);
  expect(said.join('\n')).toContain('oda@studio.example  librarian  Oda  Heron');
  expect(await run('people', 'close', 'oda@studio.example')).toBe(0);
  expect(await run('people', 'close', 'nobody@studio.example')).toBe(1);
  expect(await run('people', 'role', 'oda@studio.example', 'king')).toBe(2);
  expect(await run('people', 'invite', 'not an address', 'X', 'artist')).toBe(2);
});
