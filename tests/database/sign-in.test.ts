import { setValue } from '@/core/edit/nodes';
import { emptyDocument } from '@/core/graph/document';
import { ADDRESS_HEADER } from '@/server/settings';
import { SIGN_IN_LIMITS } from '@/server/sign-in';
import type { SignedIn } from '@/server/authentication';
import { GET as sessionRoute } from '@/app/api/session/route';
import { POST as signInRoute } from '@/app/api/auth/sign-in/email/route';
import { PUT as saveRoute } from '@/app/api/materials/[id]/route';
import { failureResponse } from '@/server/http/failure';
import { openMaterial } from '@/server/materials';
import { make, painted, startFerryStudio } from './ferry-studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn;
beforeAll(async () => {
  ({ studio, author } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

const context = { params: Promise.resolve({}) };
const JSON_TYPE = { 'Content-Type': 'application/json' };
const signIn = (
  password: string,
  headers: Record<string, string> = {},
  email = 'author@studio.example',
): Promise<Response> =>
  signInRoute(
    new Request('http://127.0.0.1:3000/api/auth/sign-in/email', {
      method: 'POST',
      headers: { ...JSON_TYPE, ...headers },
      body: JSON.stringify({ email, password }),
    }),
    context,
  );
const cookieOf = (response: Response): string =>
  response.headers.get('set-cookie')?.split(';')[0] ?? '';

describe('sign-in', () => {
  const at = (headers: Record<string, string>): Promise<Response> =>
    sessionRoute(new Request('http://127.0.0.1:3000/api/session', { headers }), context);

  it('lets in with the password only, and nobody without a session', async () => {
    expect((await signIn('wrong')).status).toBe(401);
    const right = await signIn('correct horse');
    expect(right.status).toBe(200);
    const cookie = cookieOf(right);
    expect(right.headers.get('set-cookie')).toContain('HttpOnly');
    expect(await (await at({ cookie })).json()).toMatchObject({
      user: { id: 'author', role: 'author' },
    });
    expect((await at({})).status).toBe(401);
    expect((await at({ cookie: `${cookie.slice(0, -4)}AAAA` })).status).toBe(401);
  });

  it('lets only so many guesses at an account through, from wherever', async () => {
    const statuses: number[] = [];
    for (let k = 0; k < 16; k++)
      statuses.push(
        (
          await signIn(
            'guess',
            { [ADDRESS_HEADER]: `10.0.0.${String(k)}` },
            'artist@studio.example',
          )
        ).status,
      );
    expect(statuses.filter((status) => status === 401).length).toBeLessThanOrEqual(
      SIGN_IN_LIMITS.ofAccount,
    );
    expect(statuses.at(-1)).toBe(429);
    const refused = await signIn(
      'guess',
      { [ADDRESS_HEADER]: '10.0.1.1' },
      'Artist@Studio.example',
    );
    expect([refused.status, Number(refused.headers.get('retry-after'))]).toEqual([
      429,
      SIGN_IN_LIMITS.windowSeconds,
    ]);
  });

  it(
    'does not lock out whoever is known to sign in from an address, however many strangers ' +
      'guess',
    async () => {
      const home = { [ADDRESS_HEADER]: '10.1.0.1' };
      expect((await signIn('correct horse', home)).status).toBe(200);
      for (let k = 0; k < 14; k++)
        await signIn('guess', { [ADDRESS_HEADER]: `10.2.0.${String(k)}` });
      expect((await signIn('correct horse', { [ADDRESS_HEADER]: '10.2.9.9' })).status).toBe(429);
      expect((await signIn('correct horse', home)).status).toBe(200);
    },
  );
});

describe('saves by the route', () => {
  const put = (id: string, body: string, cookie: string): Promise<Response> =>
    saveRoute(
      new Request(`http://127.0.0.1:3000/api/materials/${id}`, {
        method: 'PUT',
        headers: { ...JSON_TYPE, cookie },
        body,
      }),
      { params: Promise.resolve({ id }) },
    );
  const body = (document: unknown): string =>
    JSON.stringify({ base: 1, modelId: 'demo-tile', document });

  it(
    'are refused with the place of the fault when the document is none, and what was saved ' +
      'is kept',
    async () => {
      const cookie = cookieOf(await signIn('correct horse', { [ADDRESS_HEADER]: '10.1.0.1' }));
      const { id } = await make(author);
      const note = (text: string): unknown => ({
        ...painted(),
        network: { ...painted().network, notes: [{ id: 'a', text, at: [0, 0] }] },
      });
      const many = {
        ...painted(),
        network: { ...painted().network, notes: Array.from({ length: 60000 }, () => ({ no: 1 })) },
      };
      const cases: readonly (readonly [unknown, string])[] = [
        [{ ...painted(), network: 7 }, '/network'],
        [note('nul \0 inside'), '/network/notes/0/text'],
        [note('half \ud800'), '/network/notes/0/text'],
        [{ ...painted(), version: 99 }, 'newer release'],
        [many, '/network/notes'],
      ];
      for (const [document, said] of cases) {
        const answer = await put(id, body(document), cookie);
        expect([answer.status, ((await answer.json()) as { message: string }).message]).toEqual([
          422,
          expect.stringContaining(said),
        ]);
      }
      expect((await put(id, '{"base":', cookie)).status).toBe(400);
      expect((await put(id, body(painted()).padEnd(9_000_000), cookie)).status).toBe(413);
      expect((await openMaterial(author, id)).revision).toBe(1);
      expect(
        await (await put(id, body(setValue(painted(), null, 'n1', 'scale', 6)), cookie)).json(),
      ).toEqual({ revision: 2 });
    },
  );
});

describe('a database that goes away', () => {
  it('is said as such, and that the work is kept', async () => {
    const { id } = await make(author, { ...emptyDocument('Before the storm') });
    studio.cluster.stop();
    const failed = await openMaterial(author, id).then(
      () => null,
      (error: unknown) => failureResponse(error),
    );
    expect(failed?.status).toBe(503);
    expect(await failed?.json()).toMatchObject({
      code: 'database.unreachable',
      kept: expect.stringContaining('kept in this browser') as string,
    });
  });
});
