import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { hashPassword } from 'better-auth/crypto';
import { decode as decodePng, encode as encodePng } from 'fast-png';
import { GET as listRoute } from '@/app/api/images/route';
import { GET as readRoute } from '@/app/api/images/[hash]/route';
import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { setValue } from '@/core/edit/nodes';
import { emptyDocument } from '@/core/graph/document';
import type { GroupDefinition, NetworkDocument, NodeInstance } from '@/core/graph/document';
import { findBlob, storeBlob } from '@/db/queries/blobs';
import { findEntryByName } from '@/db/queries/library';
import { findRevision, listMaterials } from '@/db/queries/materials';
import { insertModel } from '@/db/queries/models';
import { listImages } from '@/db/queries/images';
import { imageFile, uploadImage } from '@/server/images';
import { ADDRESS_HEADER } from '@/server/settings';
import { SIGN_IN_LIMITS } from '@/server/sign-in';
import type { SignedIn } from '@/server/authentication';
import { GET as sessionRoute } from '@/app/api/session/route';
import { POST as signInRoute } from '@/app/api/auth/sign-in/email/route';
import { PUT as saveRoute } from '@/app/api/materials/[id]/route';
import { failureResponse } from '@/server/http/failure';
import {
  compareVersions,
  openEntry,
  searchLibrary,
  startPublication,
  withdraw,
} from '@/server/library';
import { createMaterial, openMaterial, saveMaterial } from '@/server/materials';
import { findPicture } from '@/server/pictures';
import { drawSwatch } from '@/server/swatches';
import { mayPublish } from '@/server/rights';
import { documentOf, node } from '../support/networks';
import { makePerson, startStudio, workOff } from './studio';

let studio: Awaited<ReturnType<typeof startStudio>>;
let author: SignedIn, artist: SignedIn, stranger: SignedIn, librarian: SignedIn;
const painted = (): NetworkDocument => ({
  ...documentOf(
    [
      node('n1', 'patterns.noise', { scale: 9 }),
      node('n2', 'ranges.smoothstep'),
      node('n3', 'surface.surface'),
    ],
    ['n1:value > n2:value', 'n2:mask > n3:roughness', 'n3:surface > @out:surface'],
  ),
  name: 'Painted',
});

beforeAll(async () => {
  studio = await startStudio();
  author = await makePerson('author', 'author', ['ferry'], await hashPassword('correct horse'));
  artist = await makePerson('artist', 'artist', ['ferry', 'heron']);
  stranger = await makePerson('stranger', 'artist', ['heron']);
  librarian = await makePerson('librarian', 'librarian', ['ferry', 'heron']);
  for (const name of ['study', 'buoy', 'tile']) {
    const bytes = await readFile(
      path.resolve(import.meta.dirname, `../../assets/models/${name}.glb`),
    );
    await insertModel({
      id: `demo-${name}`,
      name,
      projectId: null,
      blobHash: await storeBlob(bytes, 'model/gltf-binary'),
      ownerId: null,
    });
  }
}, 180000);
afterAll(() => studio.stop());

const make = (
  user: SignedIn,
  document: NetworkDocument = painted(),
  projectId = 'ferry',
): Promise<{ id: string }> => createMaterial(user, { projectId, modelId: 'demo-tile', document });

describe('materials', () => {
  it('are saved as revisions and opened by members of the project only', async () => {
    const { id } = await make(author);
    const next = setValue(painted(), null, 'n1', 'scale', 12);
    expect(
      await saveMaterial(author, id, { base: 1, modelId: 'demo-tile', document: next }),
    ).toEqual({ revision: 2 });
    expect((await openMaterial(artist, id)).document).toEqual(next);
    expect((await openMaterial(artist, id, 1)).document).toEqual(painted());
    await expect(openMaterial(stranger, id)).rejects.toMatchObject({ status: 404 });
    await expect(
      saveMaterial(stranger, id, { base: 2, modelId: 'demo-tile', document: next }),
    ).rejects.toMatchObject({ status: 404 });
    await expect(make(stranger)).rejects.toMatchObject({ code: 'project.not-member' });
  });

  it('keep both versions when two people save at once', async () => {
    const { id } = await make(author);
    const [mine, theirs] = [3, 5].map((scale) =>
      setValue(painted(), null, 'n1', 'scale', scale),
    ) as [NetworkDocument, NetworkDocument];
    const outcomes = await Promise.allSettled([
      saveMaterial(author, id, { base: 1, modelId: 'demo-tile', document: mine }),
      saveMaterial(artist, id, { base: 1, modelId: 'demo-tile', document: theirs }),
    ]);
    expect(outcomes.map((outcome) => outcome.status).sort()).toEqual(['fulfilled', 'rejected']);
    const refused = outcomes.find(
      (outcome) => outcome.status === 'rejected',
    ) as PromiseRejectedResult;
    expect(refused.reason).toMatchObject({
      code: 'material.clash',
      status: 409,
      details: { revision: 2 },
    });
    const loser = outcomes[0]?.status === 'rejected' ? mine : theirs;
    expect(
      await saveMaterial(author, id, { base: 2, modelId: 'demo-tile', document: loser }),
    ).toEqual({ revision: 3 });
    expect((await findRevision(id, 2))?.document).not.toEqual(
      (await findRevision(id, 3))?.document,
    );
  });

  it('saved again as they are need no other revision; a lost answer is no clash', async () => {
    const { id } = await make(author);
    const save = (
      user: SignedIn,
      base: number,
      document: NetworkDocument,
    ): Promise<{ revision: number }> =>
      saveMaterial(user, id, { base, modelId: 'demo-tile', document });
    expect(await save(author, 1, painted())).toEqual({ revision: 1 });
    const next = setValue(painted(), null, 'n1', 'scale', 4);
    expect(await save(author, 1, next)).toEqual({ revision: 2 });
    expect(await save(author, 1, next)).toEqual({ revision: 2 });
    await expect(save(artist, 1, next)).rejects.toMatchObject({ code: 'material.clash' });
    await expect(
      save(author, 1, setValue(painted(), null, 'n1', 'scale', 5)),
    ).rejects.toMatchObject({ code: 'material.clash' });
  });

  it('with errors in work are kept', async () => {
    const { id } = await make(author);
    const unknown = documentOf([node('n1', 'patterns.of-the-future')]);
    expect(
      await saveMaterial(author, id, { base: 1, modelId: 'demo-tile', document: unknown }),
    ).toEqual({ revision: 2 });
  });

  it('get a picture, seen by members only', async () => {
    const { id } = await make(author);
    await drawSwatch(id, author.id);
    const hash =
      (await listMaterials(author.id)).find((material) => material.id === id)?.swatchHash ?? '';
    expect((await findBlob(hash))?.bytes.subarray(1, 4).toString()).toBe('PNG');
    expect(await findPicture(author, hash)).toBeDefined();
    expect(await findPicture(stranger, hash)).toBeUndefined();
  });
});

/** A material whose second revision holds a group packaged from its first. */
async function packaged(
  user: SignedIn,
  change: (document: NetworkDocument, groupId: string) => NetworkDocument = (document) => document,
): Promise<{ materialId: string; groupId: string }> {
  const { id } = await make(user);
  const grouped = groupSelection(painted(), {
    board: null,
    ids: ['n1', 'n2'],
    name: 'Grain',
    path: [],
    source: { materialId: id, revision: 1 },
  });
  const dialled =
    addDial(grouped.document, grouped.groupId, 'n1', 'scale', 'times', 'Size')?.document ??
    grouped.document;
  await saveMaterial(user, id, {
    base: 1,
    modelId: 'demo-tile',
    document: change(dialled, grouped.groupId),
  });
  return { materialId: id, groupId: grouped.groupId };
}
const request = (
  from: { materialId: string; groupId: string },
  name: string,
  version = '1.0.0',
  rack = 'studio',
) => ({ ...from, revision: 2, rack, version, name, description: 'Fine grain', tags: ['mask'] });

describe('the library', () => {
  it('publishes what the server itself has proved, and lets others find it', async () => {
    const { id } = await startPublication(author, request(await packaged(author), 'Grain'));
    const done = await workOff(id);
    expect(done).toMatchObject({
      state: 'done',
      result: { proof: { identical: true, points: 4096 } },
    });
    const found = await searchLibrary(stranger, 'fine mask', null);
    expect(found.entries.map((entry) => entry.name)).toEqual(['Grain']);
    const entry = await openEntry(stranger, found.entries[0]?.id ?? '');
    expect(entry.releases[0]).toMatchObject({ version: '1.0.0', withdrawnAt: null });
    expect(await findPicture(stranger, entry.releases[0]?.swatchHash ?? '')).toBeDefined();
    expect(await workOff(id)).toEqual(done);
    expect((await openEntry(author, entry.id)).releases).toHaveLength(1);
  }, 180000);

  it('refuses a group that does not match its source, whatever the browser claims', async () => {
    const changed = await packaged(author, (document, groupId) =>
      setValue(document, groupId, 'n2', 'edge', 0.51),
    );
    const { id } = await startPublication(author, request(changed, 'Wrong grain'));
    const done = await workOff(id);
    expect(done).toMatchObject({ state: 'refused', result: { proof: { identical: false } } });
    expect(done?.reason?.message).toContain('n2 edge');
    expect(await findEntryByName('studio', 'Wrong grain')).toBeUndefined();
  }, 180000);

  it('refuses a group whose source belongs to somebody else', async () => {
    const foreign = await make(stranger, painted(), 'heron');
    const sneaky = await packaged(author, (document, groupId) => {
      const group = document.groups[groupId];
      return group?.origin
        ? {
            ...document,
            groups: {
              ...document.groups,
              [groupId]: { ...group, origin: { ...group.origin, materialId: foreign.id } },
            },
          }
        : document;
    });
    const { id } = await startPublication(author, request(sneaky, 'Sneaky grain'));
    expect(await workOff(id)).toMatchObject({
      state: 'refused',
      reason: { code: 'proof.no-source' },
    });
  });

  it('keeps to the rights of the roles', async () => {
    expect(mayPublish('artist', 'studio', ['ferry'])).toBe(false);
    expect(mayPublish('artist', 'project:ferry', ['ferry'])).toBe(true);
    expect(mayPublish('artist', 'project:heron', ['ferry'])).toBe(false);
    expect(mayPublish('author', 'studio', [])).toBe(true);
    expect(mayPublish('librarian', 'elsewhere', [])).toBe(false);
    const mine = await packaged(artist);
    await expect(startPublication(artist, request(mine, 'Not mine'))).rejects.toMatchObject({
      status: 403,
      code: 'rights.publish',
    });
    await expect(
      startPublication(stranger, request(mine, 'Not mine', '1.0.0', 'project:heron')),
    ).rejects.toMatchObject({ status: 404 });
    const { id } = await startPublication(
      artist,
      request(mine, 'Project grain', '1.0.0', 'project:ferry'),
    );
    await workOff(id);
    expect((await searchLibrary(author, 'project grain', null)).entries).toHaveLength(1);
    expect((await searchLibrary(stranger, 'project grain', null)).entries).toHaveLength(0);
    const entry = await findEntryByName('project:ferry', 'Project grain');
    await expect(openEntry(stranger, entry?.id ?? '')).rejects.toMatchObject({ status: 404 });
    await expect(withdraw(author, entry?.id ?? '', '1.0.0', 'no')).rejects.toMatchObject({
      status: 403,
    });
    await withdraw(librarian, entry?.id ?? '', '1.0.0', 'Seams on the bell');
    expect((await openEntry(author, entry?.id ?? '')).releases[0]?.withdrawnReason).toBe(
      'Seams on the bell',
    );
    expect((await searchLibrary(author, 'project grain', null)).entries).toHaveLength(0);
  }, 180000);

  it('ends with its reason, whatever is wrong with the group', async () => {
    const broken = (
      change: (document: NetworkDocument, groupId: string) => NetworkDocument,
    ): Promise<{ materialId: string; groupId: string }> => packaged(author, change);
    const inGroup = (
      document: NetworkDocument,
      id: string,
      change: (group: GroupDefinition) => GroupDefinition,
    ): NetworkDocument => ({
      ...document,
      groups: { ...document.groups, [id]: change(document.groups[id] as GroupDefinition) },
    });
    const withNode =
      (extra: NodeInstance) =>
      (document: NetworkDocument, id: string): NetworkDocument =>
        inGroup(document, id, (group) => ({
          ...group,
          network: { ...group.network, nodes: [...group.network.nodes, extra] },
        }));
    const planted: readonly (readonly [
      string,
      (document: NetworkDocument, groupId: string) => NetworkDocument,
    ])[] = [
      [
        'a type error in a formula',
        withNode({ ...node('f', 'math.formula', { formula: { formula: 'a.x' } }), id: 'f' }),
      ],
      ['an unknown node', withNode(node('u', 'patterns.of-the-future'))],
      ['no origin', (document, id) => inGroup(document, id, ({ origin: _, ...group }) => group)],
      [
        'an origin that names nothing',
        (document, id) =>
          inGroup(document, id, (group) => ({
            ...group,
            origin: group.origin && {
              ...group.origin,
              outputs: {
                [Object.keys(group.origin.outputs)[0] ?? '']: { node: 'gone', output: 'value' },
              },
            },
          })),
      ],
      [
        'a group that contains itself',
        (document, id) => withNode({ ...node('g', 'group'), group: id })(document, id),
      ],
      [
        'a strand from nowhere',
        (document, id) =>
          inGroup(document, id, (group) => ({
            ...group,
            network: {
              ...group.network,
              strands: [
                ...group.network.strands,
                {
                  id: 's9',
                  from: { node: 'gone', output: 'x' },
                  to: { node: 'n1', input: 'scale' },
                  order: 0,
                },
              ],
            },
          })),
      ],
    ];
    for (const [fault, change] of planted) {
      const { id } = await startPublication(
        author,
        request(await broken(change), `Fault ${fault}`),
      );
      const row = await workOff(id);
      expect({
        fault,
        state: row?.state,
        hasReason: (row?.reason?.message ?? '').length > 10,
      }).toEqual({ fault, state: 'refused', hasReason: true });
    }
    for (const groupId of ['constructor', 'toString', '__proto__', 'tin:grain']) {
      const { materialId } = await packaged(author);
      const { id } = await startPublication(author, {
        ...request({ materialId, groupId }, 'Odd'),
        groupId,
      });
      expect(await workOff(id)).toMatchObject({
        state: 'refused',
        reason: { code: 'publish.missing' },
      });
    }
  }, 120000);

  it('is not held up by an error elsewhere in the network it came from, mended since', async () => {
    const wrong = {
      ...painted(),
      network: {
        ...painted().network,
        nodes: [
          ...painted().network.nodes,
          node('f', 'math.formula', { formula: { formula: 'a.x' } }),
        ],
      },
    };
    const { id: materialId } = await make(author, wrong);
    const grouped = groupSelection(painted(), {
      board: null,
      ids: ['n1', 'n2'],
      name: 'Grain',
      path: [],
      source: { materialId, revision: 1 },
    });
    await saveMaterial(author, materialId, {
      base: 1,
      modelId: 'demo-tile',
      document: grouped.document,
    });
    const { id } = await startPublication(
      author,
      request({ materialId, groupId: grouped.groupId }, 'Mended since'),
    );
    expect(await workOff(id)).toMatchObject({
      state: 'done',
      result: { proof: { identical: true } },
    });
  }, 120000);

  it('takes only higher versions', async () => {
    const again = await packaged(author);
    await expect(startPublication(author, request(again, 'Grain', '1.0.0'))).rejects.toMatchObject({
      code: 'release.version',
    });
    expect(compareVersions('1.10.0', '1.9.9')).toBeGreaterThan(0);
  });
});

describe('images', () => {
  const png = encodePng({
    width: 2,
    height: 2,
    channels: 3,
    depth: 8,
    data: Uint8Array.of(255, 0, 0, 255, 0, 0, 255, 0, 0, 255, 0, 0),
  });
  const upload = (
    user: SignedIn,
    bytes: Uint8Array,
    name = 'red.png',
  ): Promise<{ image: string; name: string }> =>
    uploadImage(user, { name }, () => Promise.resolve(new Uint8Array(bytes)));
  it('are stored once by content, listed and read by everyone in the studio', async () => {
    const mine = await upload(artist, png);
    expect(await upload(stranger, png, 'again.png')).toEqual({
      image: mine.image,
      name: 'again.png',
    });
    expect((await listImages()).filter(({ hash }) => hash === mine.image)).toEqual([
      { hash: mine.image, name: 'red.png', mediaType: 'image/png' },
    ]);
    expect((await imageFile(mine.image)).bytes).toEqual(new Uint8Array(png));
  });
  it(
    'are refused when they are something else or too large; nothing else is read through ' + 'them',
    async () => {
      await expect(
        upload(artist, new TextEncoder().encode('<svg onload="x"/>')),
      ).rejects.toMatchObject({ code: 'image.broken' });
      await expect(upload(artist, new Uint8Array(64 * 1024 * 1024 + 1))).rejects.toMatchObject({
        status: 413,
      });
      const model = await storeBlob(
        await readFile(path.resolve(import.meta.dirname, '../../assets/models/tile.glb')),
        'model/gltf-binary',
      );
      await expect(imageFile(model)).rejects.toMatchObject({ status: 404 });
      await expect(imageFile('../secrets')).rejects.toMatchObject({ status: 404 });
      for (const handler of [
        listRoute,
        () =>
          readRoute(new Request('http://127.0.0.1:3000/api/images/x'), {
            params: Promise.resolve({ hash: model }),
          }),
      ]) {
        expect(
          (
            await handler(new Request('http://127.0.0.1:3000/api/images'), {
              params: Promise.resolve({}),
            })
          ).status,
        ).toBe(401);
      }
    },
  );
  it('stand in the pictures of materials', async () => {
    const { image } = await upload(artist, png);
    const document: NetworkDocument = {
      ...documentOf(
        [node('i', 'patterns.image', { image: { image, name: 'red' } }), node('s', 'surface.flat')],
        ['i:colour > s:colour', 's:surface > @out:surface'],
      ),
      name: 'Red',
    };
    const { id } = await make(artist, document);
    await drawSwatch(id, artist.id);
    const hash = (await listMaterials(artist.id)).find((each) => each.id === id)?.swatchHash ?? '';
    const picture = decodePng((await findBlob(hash))?.bytes ?? Buffer.alloc(0));
    const middle = ((picture.height >> 1) * picture.width + (picture.width >> 1)) * 4;
    expect([...picture.data.slice(middle, middle + 3)]).toEqual([255, 0, 0]);
  });
});

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
