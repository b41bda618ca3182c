/** Kept states of a material: what they hold, who may see and change them, their pictures. */
import { MOST_STATES, keepState as keptRoute } from '@/contract/states';
import type { StateGiven } from '@/contract/states';
import { listJobs } from '@/db/queries/jobs';
import { insertState } from '@/db/queries/states';
import type { SignedIn } from '@/server/authentication';
import { saveMaterial } from '@/server/materials';
import { findPicture } from '@/server/pictures';
import { forgetState, keepState, listStates, tellState } from '@/server/states';
import { findRevision } from '@/server/stored';
import { publishedEntry } from './entries';
import { make, painted, startFerryStudio } from './ferry-studio';
import { workOff } from './studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, artist: SignedIn, stranger: SignedIn, librarian: SignedIn;
beforeAll(async () => {
  ({ studio, author, artist, stranger, librarian } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

const CAMERA = { eye: [0.4, 0.3, 2], target: [0, 0, 0], fieldRad: 0.6, aspect: 0.5 } as const;
const state = (name: string, changes: Partial<StateGiven> = {}): StateGiven => ({
  revision: 1,
  modelId: 'demo-tile',
  camera: CAMERA,
  name,
  note: '',
  about: null,
  amount: null,
  ...changes,
});

describe('a kept state', () => {
  it('names a revision, and stays while the material goes on', async () => {
    const { id } = await make(artist);
    await keepState(artist, id, state('Dry', { note: 'as approved' }));
    const changed = { ...painted(), name: 'Painted again' };
    await saveMaterial(artist, id, { base: 1, modelId: 'demo-tile', document: changed });
    await keepState(author, id, state('Wet', { revision: 2, about: 'Grime', amount: 0.67 }));
    const { states } = await listStates(artist, id);
    expect(states).toMatchObject([
      { name: 'Dry', note: 'as approved', revision: 1, authorName: 'artist', mayEdit: true },
      { name: 'Wet', revision: 2, about: 'Grime', mayEdit: false, camera: CAMERA },
    ]);
    expect(states[1]?.amount).toBeCloseTo(0.67, 6);
  });
  it('is drawn by a worker, for those alone who see the material', async () => {
    const { id } = await make(artist);
    await keepState(artist, id, state('Drawn'));
    const [job] = (await listJobs(artist.id, 50)).filter(({ kind }) => kind === 'state picture');
    expect((await workOff(job?.id ?? ''))?.state).toBe('done');
    const [kept] = (await listStates(artist, id)).states;
    const hash = kept?.pictureHash ?? '';
    expect((await findPicture(author, hash))?.mediaType).toBe('image/png');
    expect(await findPicture(stranger, hash)).toBeUndefined();
  });
  it('is changed and forgotten by whoever kept it, authors and librarians', async () => {
    const { id } = await make(author);
    const kept = await keepState(author, id, state('First'));
    await expect(tellState(artist, id, kept.id, { name: 'Mine' })).rejects.toMatchObject({
      code: 'rights.state',
      status: 403,
    });
    await expect(forgetState(stranger, id, kept.id)).rejects.toMatchObject({ status: 404 });
    await tellState(librarian, id, kept.id, { name: 'Approved', note: 'by the lead' });
    expect((await listStates(artist, id)).states).toMatchObject([
      { name: 'Approved', note: 'by the lead' },
    ]);
    await forgetState(author, id, kept.id);
    expect((await listStates(artist, id)).states).toEqual([]);
    expect(await findRevision(id, 1)).toBeDefined();
  });
  it('of another material is not there, whoever asks', async () => {
    const [one, other] = [await make(author), await make(author)];
    const kept = await keepState(author, one.id, state('First'));
    await expect(forgetState(author, other.id, kept.id)).rejects.toMatchObject({
      code: 'state.not-found',
    });
  });
  it('is refused, in words, where it can name nothing or there are too many', async () => {
    const { id } = await make(artist);
    await expect(keepState(artist, id, state('Later', { revision: 9 }))).rejects.toMatchObject({
      code: 'state.no-revision',
      kept: 'Nothing was kept.',
    });
    await expect(keepState(artist, id, state('Lost', { modelId: 'gone' }))).rejects.toMatchObject({
      code: 'model.not-found',
    });
    await expect(keepState(stranger, id, state('Theirs'))).rejects.toMatchObject({ status: 404 });
    for (let k = 0; k < MOST_STATES; k++)
      await insertState({
        ...state(`State ${String(k)}`),
        id: `${id} ${String(k)}`,
        materialId: id,
        authorId: artist.id,
      });
    await expect(keepState(artist, id, state('One more'))).rejects.toMatchObject({
      code: 'state.too-many',
    });
  });
  it('of absurd numbers does not come in', () => {
    const form = keptRoute.body.kind === 'json' ? keptRoute.body.form : null;
    const refused = [
      { amount: 3 },
      { amount: NaN },
      { camera: { ...CAMERA, eye: [1e300, 0, 0] } },
      { camera: { ...CAMERA, eye: [0, 0] } },
      { camera: { ...CAMERA, fieldRad: 4 } },
      { camera: { ...CAMERA, aspect: 0 } },
      { revision: 0 },
      { name: '' },
      { note: 'x'.repeat(2001) },
    ];
    for (const changes of refused)
      expect(form?.validate({ ...state('A'), ...changes }).error).toBeDefined();
    expect(form?.validate(state('A')).error).toBeUndefined();
  });
});

it('is kept of the revision that a group was published from', async () => {
  const { materialId } = await publishedEntry(author, 'Fine grain');
  const { states } = await listStates(author, materialId);
  expect(states).toMatchObject([{ name: 'Published as Fine grain 1.0.0' }]);
  expect(states[0]?.pictureHash).not.toBeNull();
});
