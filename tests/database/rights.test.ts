/**
 * Every route of the contract, asked by everybody: nobody, each role, a member of another project,
 * a foreign site.
 */
import { readFile, readdir } from 'node:fs/promises';
import path from 'node:path';
import { hashPassword } from 'better-auth/crypto';
import { encode as encodePng } from 'fast-png';
import { ROUTES } from '@/contract/index';
import type { AnyRoute, Role } from '@/contract/route';
import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { storeBlob } from '@/db/queries/blobs';
import { noteWorker } from '@/db/queries/jobs';
import { insertModel, replaceModelFile } from '@/db/queries/models';
import { setSwatch } from '@/db/queries/materials';
import type { SignedIn } from '@/server/authentication';
import { copyEntry } from '@/server/entry-places';
import { enqueue } from '@/server/jobs/enqueue';
import { SWATCH } from '@/server/jobs/lanes';
import { startPublication } from '@/server/publication';
import { askConsequences } from '@/server/outlooks';
import { saveMaterialFile } from '@/server/material-files';
import { arrangeMaterial } from '@/server/material-places';
import { createMaterial, saveMaterial } from '@/server/materials';
import { searchLibrary } from '@/server/library';
import { addProject, invite } from '@/server/people';
import { saveEntryFile } from '@/server/group-files';
import { keepPreset } from '@/server/presets';
import { USUAL_RULES } from '@/server/rules';
import { createSet } from '@/server/sets';
import { keepState } from '@/server/states';
import { keepStarter } from '@/server/starters';
import { routeAddress } from '@/state/api';
import { proposeNext } from './entries';
import { GREY_RAMP, painted as networkOfFerry } from './ferry-studio';
import { bytesOf } from './files';
import { makePerson, startStudio, workOff } from './studio';

const ORIGIN = 'http://127.0.0.1:3000';
const PASSWORD = 'correct horse';
const root = path.resolve(import.meta.dirname, '../..');
const painted = networkOfFerry();

interface Persona {
  readonly name: string;
  readonly id: string;
  readonly role: Role | null;
  readonly isMember: boolean;
  readonly isForeign?: true;
}
/** The first made what is asked for; all is of the project ferry. */
const PERSONAS: readonly Persona[] = [
  { name: 'no session', id: '', role: null, isMember: false },
  { name: 'an artist of the project', id: 'artist', role: 'artist', isMember: true },
  { name: 'an author of the project', id: 'author', role: 'author', isMember: true },
  { name: 'a librarian of the project', id: 'librarian', role: 'librarian', isMember: true },
  { name: 'an artist of another project', id: 'stranger', role: 'artist', isMember: false },
  { name: 'a librarian of another project', id: 'elsewhere', role: 'librarian', isMember: false },
  {
    name: 'a foreign site with an artist’s cookie',
    id: 'artist',
    role: 'artist',
    isMember: true,
    isForeign: true,
  },
];

type Handler = (request: Request, context: { params: Promise<unknown> }) => Promise<Response>;
const fileOf = ({ path: at }: AnyRoute): string =>
  path.join(root, 'src/app', at.replace(/:(\w+)/g, '[$1]'), 'route.ts');
async function handlerOf(route: AnyRoute): Promise<Handler | undefined> {
  const served = (await import(fileOf(route))) as Record<string, Handler | undefined>;
  return served[route.method];
}

let studio: Awaited<ReturnType<typeof startStudio>>;
let artist: SignedIn;
const cookies = new Map<string, string>();
const known = {
  entry: '',
  copied: '',
  picture: '',
  image: '',
  png: new Uint8Array(),
  tile: Buffer.alloc(0),
};

async function cookieFor(id: string): Promise<string> {
  const handler = await handlerOf(
    ROUTES.find((route) => route.path.endsWith('/sign-in/email')) as AnyRoute,
  );
  const headers = { 'Content-Type': 'application/json', 'x-bright-loom-address': `10.0.0.${id}` };
  const body = JSON.stringify({ email: `${id}@studio.example`, password: PASSWORD });
  const answer = await handler?.(
    new Request(`${ORIGIN}/api/auth/sign-in/email`, { method: 'POST', headers, body }),
    { params: Promise.resolve({}) },
  );
  return answer?.headers.get('set-cookie')?.split(';')[0] ?? '';
}

const KEPT_STATE = {
  revision: 1,
  modelId: 'tile',
  camera: { eye: [0, 0, 3], target: [0, 0, 0], fieldRad: 0.6, aspect: 1 } as const,
  name: 'Dry',
  note: '',
  about: null,
  amount: null,
};
/** A state that the artist kept of a material of theirs. */
async function newState(): Promise<{ id: string; state: string }> {
  const id = await newMaterial();
  const kept = await keepState(artist, id, KEPT_STATE);
  return { id, state: kept.id };
}
const newMaterial = async (): Promise<string> =>
  (await createMaterial(artist, { projectId: 'ferry', modelId: 'tile', document: painted })).id;

const newArchived = async (): Promise<string> => {
  const id = await newMaterial();
  await arrangeMaterial(artist, id, { isArchived: true });
  return id;
};

const keptRamp = (name: string) => ({
  ...({ kind: 'ramp', rack: 'project:ferry', name, description: '', tags: [] } as const),
  value: GREY_RAMP,
});
const newPreset = (): Promise<{ id: string }> =>
  keepPreset(artist, keptRamp(`Ramp ${String(made++)}`));
const startedFrom = async () => ({
  materialId: await newMaterial(),
  ...{ rack: 'project:ferry', name: `Starter ${String(made++)}`, description: '', tags: [] },
});

/** A material whose second revision holds a group packaged from its first. */
async function packaged(): Promise<{ materialId: string; groupId: string }> {
  const materialId = await newMaterial();
  const grouped = groupSelection(painted, {
    board: null,
    ids: ['n1', 'n2'],
    name: 'Grain',
    path: [],
    source: { materialId, revision: 1 },
  });
  const document =
    addDial(grouped.document, grouped.groupId, 'n1', 'scale', 'times', 'Size')?.document ??
    grouped.document;
  await saveMaterial(artist, materialId, { base: 1, modelId: 'tile', document });
  return { materialId, groupId: grouped.groupId };
}
const publication = async (name: string) => ({
  ...(await packaged()),
  revision: 2,
  rack: 'project:ferry',
  name,
  description: '',
  tags: [],
  next: null,
  notes: '',
});
const newcomer = () => ({
  email: `new${String(made++)}@studio.example`,
  ...{ name: 'Newcomer', role: 'artist' as const, projects: ['ferry'] },
});
const newSecret = async (): Promise<string> =>
  (await invite(artist, newcomer())).link.split('#')[1] ?? '';
const newJob = (): Promise<string> =>
  enqueue(SWATCH, { materialId: 'none' }, { title: 'Picture', userId: artist.id });

beforeAll(async () => {
  studio = await startStudio();
  const hash = await hashPassword(PASSWORD);
  artist = await makePerson('artist', 'artist', ['ferry'], hash);
  await makePerson('author', 'author', ['ferry'], hash);
  await makePerson('librarian', 'librarian', ['ferry'], hash);
  await makePerson('stranger', 'artist', ['heron'], hash);
  await makePerson('elsewhere', 'librarian', ['heron'], hash);
  await makePerson('leaver', 'artist', ['heron'], hash);
  known.tile = await readFile(path.join(root, 'assets/models/tile.glb'));
  const blobHash = await storeBlob(known.tile, 'model/gltf-binary');
  await insertModel({ id: 'tile', name: 'Tile', projectId: 'ferry', blobHash, ownerId: artist.id });
  for (const id of ['demo-study', 'demo-buoy'])
    await insertModel({ id, name: id, projectId: null, blobHash, ownerId: null });
  known.png = new Uint8Array(
    encodePng({ width: 2, height: 2, channels: 3, depth: 8, data: new Uint8Array(12) }),
  );
  known.picture = await storeBlob(known.png, 'image/png');
  await setSwatch(await newMaterial(), known.picture);
  await workOff((await startPublication(artist, await publication('Grain'))).id);
  known.entry = (await searchLibrary(artist, { query: 'grain' })).entries[0]?.id ?? '';
  known.copied = (
    await copyEntry(artist, known.entry, { rack: 'project:ferry', name: 'Grain to copy' })
  ).id;
  for (const { id } of PERSONAS) if (id && !cookies.has(id)) cookies.set(id, await cookieFor(id));
}, 180000);
afterAll(() => studio.stop());

interface Sample {
  readonly params?: Record<string, string>;
  readonly query?: Record<string, string>;
  readonly body?: unknown;
  readonly file?: Uint8Array;
}
let made = 0;
/** Something that may be asked of each route, about a thing of the project ferry. */
const SAMPLES: Readonly<Record<string, () => Sample | Promise<Sample>>> = {
  'GET /api/session': () => ({}),
  'POST /api/auth/sign-in/email': () => ({
    body: { email: 'artist@studio.example', password: PASSWORD },
  }),
  'POST /api/auth/sign-out': () => ({ body: {} }),
  'GET /api/materials': () => ({ query: { query: 'paint', order: 'name' } }),
  'POST /api/materials': () => ({
    body: { projectId: 'ferry', modelId: 'tile', document: painted },
  }),
  'GET /api/materials/:id': async () => ({ params: { id: await newMaterial() } }),
  'GET /api/materials/:id/revisions/:number': async () => ({
    params: { id: await newMaterial(), number: '1' },
  }),
  'PUT /api/materials/:id': async () => ({
    params: { id: await newMaterial() },
    body: { base: 1, modelId: 'tile', document: painted },
  }),
  'PATCH /api/materials/:id': async () => ({
    params: { id: await newMaterial() },
    body: { base: 1, modelId: 'tile', patch: [{ op: 'replace', path: '/name', value: 'Tin' }] },
  }),
  'POST /api/materials/:id/duplicate': async () => ({
    params: { id: await newMaterial() },
    body: { name: `Copy ${String(made++)}`, projectId: 'ferry' },
  }),
  'POST /api/materials/:id/arrange': async () => ({
    params: { id: await newMaterial() },
    body: { isArchived: true },
  }),
  'GET /api/materials/places': () => ({}),
  'GET /api/storage': () => ({}),
  'GET /api/storage/:id': () => ({ params: { id: 'ferry' } }),
  'POST /api/storage/:id/limit': () => ({ params: { id: 'ferry' }, body: { quotaBytes: null } }),
  'POST /api/storage/:id/remove': async () => ({
    params: { id: 'ferry' },
    body: { kind: 'material', id: await newArchived() },
  }),
  'POST /api/storage/tidy': () => ({ body: {} }),
  'POST /api/sets': () => ({ body: { projectId: 'ferry', name: `Set ${String(made++)}` } }),
  'POST /api/sets/:id/arrange': async () => ({
    params: await createSet(artist, { projectId: 'ferry', name: `Set ${String(made++)}` }),
    body: { isRemoved: true },
  }),
  'POST /api/sets/:id/materials': async () => ({
    params: await createSet(artist, { projectId: 'ferry', name: `Set ${String(made++)}` }),
    body: { add: [await newMaterial()], remove: [] },
  }),
  'GET /api/materials/:id/file': async () => ({ params: { id: await newMaterial() } }),
  'POST /api/materials/import': async () => ({
    query: { project: 'ferry' },
    file: await bytesOf((await saveMaterialFile(artist, await newMaterial(), true)).written),
  }),
  'GET /api/materials/:id/revisions': async () => ({ params: { id: await newMaterial() } }),
  'POST /api/materials/:id/presence': async () => ({
    params: { id: await newMaterial() },
    body: { revision: 1, isLeaving: false },
  }),
  'GET /api/materials/:id/states': async () => ({ params: { id: await newMaterial() } }),
  'POST /api/materials/:id/states': async () => ({
    params: { id: await newMaterial() },
    body: KEPT_STATE,
  }),
  'POST /api/materials/:id/states/:state/tell': async () => ({
    params: await newState(),
    body: { note: 'Too much salt' },
  }),
  'POST /api/materials/:id/states/:state/forget': async () => ({
    params: await newState(),
    body: {},
  }),
  'POST /api/models/:id/arrange': () => ({ params: { id: 'tile' }, body: { name: 'Tile' } }),
  'POST /api/models/:id/duplicate': () => ({
    params: { id: 'tile' },
    body: { name: 'Tile again', projectId: 'ferry' },
  }),
  'PUT /api/models/:id': () => ({ params: { id: 'tile' }, file: known.tile }),
  'POST /api/models/:id/restore': async () => {
    await replaceModelFile('tile', await storeBlob(Buffer.from('other'), 'model/obj'));
    return { params: { id: 'tile' }, body: {} };
  },
  'GET /api/models': () => ({}),
  'POST /api/models': () => ({ query: { project: 'ferry', name: 'Tile' }, file: known.tile }),
  'GET /api/models/:id': () => ({ params: { id: 'tile' } }),
  'PATCH /api/models/:id': () => ({
    params: { id: 'tile' },
    body: { before: {}, preparation: {} },
  }),
  'GET /api/models/:id/maps': () => ({
    params: { id: 'tile' },
    query: { settings: JSON.stringify({ kind: 'curvature', radius: 1 }) },
  }),
  'GET /api/images': () => ({}),
  'POST /api/images': () => ({ query: { name: 'grey.png' }, file: known.png }),
  'GET /api/images/:hash': () => ({ params: { hash: known.image } }),
  'GET /api/blobs/:hash': () => ({ params: { hash: known.picture } }),
  'GET /api/presets': () => ({ query: { kind: 'ramp' } }),
  'POST /api/presets': () => ({ body: keptRamp(`Tide ${String(made++)}`) }),
  'POST /api/presets/starters': async () => ({ body: await startedFrom() }),
  'GET /api/presets/:id': async () => ({ params: await keepStarter(artist, await startedFrom()) }),
  'POST /api/presets/:id/arrange': async () => ({
    params: await newPreset(),
    body: { description: 'From the quay' },
  }),
  'POST /api/presets/:id/copy': async () => ({
    params: await newPreset(),
    body: { rack: 'project:ferry', name: `Ramp ${String(made++)}` },
  }),
  'POST /api/presets/:id/forget': async () => ({ params: await newPreset(), body: {} }),
  'GET /api/library': () => ({ query: { query: 'grain' } }),
  'GET /api/library/:id': () => ({ params: { id: known.entry } }),
  'POST /api/library': async () => ({ body: await publication(`Grain ${String(made++)}`) }),
  'GET /api/library/:id/file': () => ({ params: { id: known.entry } }),
  'POST /api/library/import': async () => ({
    file: await bytesOf((await saveEntryFile(artist, known.entry)).written),
  }),
  'POST /api/library/:id/withdraw': () => ({
    params: { id: known.entry },
    body: { version: '1.0.0', reason: 'Seams' },
  }),
  'GET /api/library/facets': () => ({ query: { query: 'grain' } }),
  'GET /api/library/:id/releases/:version': () => ({
    params: { id: known.entry, version: '1.0.0' },
  }),
  'POST /api/library/:id/arrange': () => ({
    params: { id: known.entry },
    body: { description: 'Fine grain' },
  }),
  'POST /api/library/:id/copy': () => ({
    params: { id: known.copied },
    body: { rack: 'project:ferry', name: `Copy ${String(made++)}` },
  }),
  'POST /api/library/:id/consequences': () => ({
    params: { id: known.entry },
    body: { version: '1.0.0', candidate: null },
  }),
  'GET /api/consequences/:id': async () => ({
    params: await askConsequences(artist, known.entry, { version: '1.0.0', candidate: null }),
  }),
  'POST /api/library/:id/take': () => ({
    params: { id: known.entry },
    body: { version: '1.0.0', materialIds: [] },
  }),
  'POST /api/library/:id/put-back': () => ({
    params: { id: known.entry },
    body: { materialIds: [] },
  }),
  'POST /api/library/:id/decide': async () => ({
    params: { id: known.copied },
    body: {
      version: await proposeNext(known.copied, artist.id, `1.0.${String(++made)}`),
      isAccepted: false,
      remarks: [],
    },
  }),
  'GET /api/releases/waiting': () => ({}),
  'GET /api/releases/proposed': () => ({}),
  'GET /api/jobs': () => ({}),
  'GET /api/jobs/:id': async () => ({ params: { id: await newJob() } }),
  'POST /api/jobs/:id/cancel': async () => ({ params: { id: await newJob() }, body: {} }),
  'GET /api/jobs/events': () => ({}),
  'GET /api/health': () => ({}),
  'GET /api/people': () => ({}),
  'GET /api/people/deeds': () => ({}),
  'POST /api/people/invitations': () => ({ body: newcomer() }),
  'POST /api/people/invitations/:id/withdraw': async () => ({
    params: { id: (await invite(artist, newcomer())).id },
    body: {},
  }),
  'POST /api/people/:id/change': () => ({ params: { id: 'leaver' }, body: { role: 'author' } }),
  'POST /api/people/:id/reset': () => ({ params: { id: 'leaver' }, body: {} }),
  'POST /api/people/:id/end-sessions': () => ({ params: { id: 'leaver' }, body: {} }),
  'POST /api/people/projects': () => ({ body: { name: `Project ${String(made++)}` } }),
  'POST /api/people/projects/:id': async () => ({
    params: { id: (await addProject(artist, `Project ${String(made++)}`)).id },
    body: { name: `Project ${String(made++)}` },
  }),
  'POST /api/people/rules': () => ({ body: USUAL_RULES }),
  'POST /api/auth/link': async () => ({ body: { secret: await newSecret() } }),
  'POST /api/auth/link/take': async () => ({
    body: { secret: await newSecret(), name: 'Newcomer', password: PASSWORD },
  }),
};

/** What the contract says that somebody gets. */
function declared(
  { who, method, status }: AnyRoute,
  { role, isMember, isForeign, id }: Persona,
): number {
  if (isForeign && method !== 'GET') return 403;
  if (who.audience === 'everyone') return status;
  if (role === null) return 401;
  if (who.roles && !who.roles.includes(role)) return 403;
  if (who.always?.includes(role)) return status;
  if (who.audience === 'readers') return isMember ? status : 404;
  if (who.audience === 'members') return isMember ? status : 403;
  if (who.audience === 'requester') return id === 'artist' ? status : 404;
  return status;
}

async function ask(route: AnyRoute, { id, isForeign }: Persona): Promise<Response> {
  const sample = (await SAMPLES[`${route.method} ${route.path}`]?.()) ?? {};
  // Signing out ends the session it is asked with.
  const cookie =
    id && route.path.endsWith('/sign-out') && !isForeign
      ? await cookieFor(id)
      : (cookies.get(id) ?? '');
  const headers: Record<string, string> = {
    host: '127.0.0.1:3000',
    cookie,
    'x-bright-loom-address': `10.1.0.${String(made++)}`,
  };
  if (isForeign) headers['origin'] = 'https://elsewhere.example';
  if (route.body.kind === 'json') headers['Content-Type'] = 'application/json';
  const body = sample.file
    ? new Uint8Array(sample.file)
    : sample.body === undefined
      ? undefined
      : JSON.stringify(sample.body);
  const request = new Request(`${ORIGIN}${routeAddress(route, sample.params, sample.query)}`, {
    method: route.method,
    headers,
    body: body ?? null,
  });
  const handler = await handlerOf(route);
  if (!handler) throw new Error(`no handler for ${route.method} ${route.path}`);
  return handler(request, { params: Promise.resolve(sample.params ?? {}) });
}

describe('the contract', () => {
  it('states every route that is served, and every one it states is served', async () => {
    const files = (await readdir(path.join(root, 'src/app/api'), { recursive: true })).filter(
      (file) => file.endsWith('route.ts'),
    );
    const served: string[] = [];
    for (const file of files) {
      const handlers = (await import(path.join(root, 'src/app/api', file))) as object;
      const at = `/api/${path.dirname(file)}`.replace(/\[(\w+)\]/g, ':$1');
      served.push(...Object.keys(handlers).map((method) => `${method} ${at}`));
    }
    const stated = ROUTES.map((route) => `${route.method} ${route.path}`);
    expect(served.sort()).toEqual([...stated].sort());
    expect(Object.keys(SAMPLES).sort()).toEqual([...stated].sort());
  });
});

describe.each(ROUTES.map((route) => [`${route.method} ${route.path}`, route] as const))(
  '%s',
  (_name, route) => {
    beforeAll(async () => {
      // A worker lives as long as it says so, however long all routes take.
      await noteWorker('a worker');
      const post = ROUTES.find(
        ({ method, path: at }) => method === 'POST' && at === '/api/images',
      ) as AnyRoute;
      known.image ||= (
        (await (await ask(post, PERSONAS[1] as Persona)).json()) as { image: string }
      ).image;
    });
    it.each(PERSONAS.map((persona) => [persona.name, persona] as const))(
      'for %s is as declared',
      async (_who, persona) => {
        const answer = await ask(route, persona);
        const said = answer.headers.get('content-type')?.includes('json')
          ? await answer.clone().text()
          : '';
        expect({
          status: answer.status,
          said: answer.status === declared(route, persona) ? '' : said,
        }).toEqual({ status: declared(route, persona), said: '' });
        if (answer.status >= 400)
          expect(JSON.parse(said)).toMatchObject({
            code: expect.any(String) as string,
            message: expect.stringMatching(/./) as string,
          });
        await answer.body?.cancel();
      },
    );
  },
);
