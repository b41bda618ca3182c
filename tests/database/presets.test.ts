/** Ramps, palettes, curves, variants and starters on racks. */
import { MOST_PRESETS, keepPreset as keptRoute } from '@/contract/presets';
import type { PresetGiven } from '@/contract/presets';
import type { RampValue } from '@/core/graph/document';
import { findPresets } from '@/db/queries/presets';
import { listJobs } from '@/db/queries/jobs';
import type { SignedIn } from '@/server/authentication';
import { arrangeEntry } from '@/server/entry-places';
import { openEntry, openRelease } from '@/server/library';
import { findPicture } from '@/server/pictures';
import { arrangePreset, copyPreset, forgetPreset, keepPreset, listPresets } from '@/server/presets';
import { keepStarter, openStarter } from '@/server/starters';
import { publishedEntry } from './entries';
import { make, painted, startFerryStudio } from './ferry-studio';
import { workOff } from './studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, artist: SignedIn, stranger: SignedIn, librarian: SignedIn;
beforeAll(async () => {
  ({ studio, author, artist, stranger, librarian } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

const ramp = (level: number): RampValue => ({
  stops: [0, 1].map((position) => ({
    id: `s${String(position)}`,
    position,
    colour: [level, level, level],
    alpha: 1,
    segment: 'linear',
  })),
});
const ofRamp = (rack: string, name: string, level = 0.5): PresetGiven => ({
  ...{ kind: 'ramp', rack, name, description: '', tags: [], value: ramp(level) },
});
const own = ({ id }: SignedIn): string => `person:${id}`;
const names = async (user: SignedIn, query: Parameters<typeof listPresets>[1] = {}) =>
  (await listPresets(user, query)).presets.map(({ name }) => name);

describe('a preset', () => {
  it('is one’s own on one’s own rack; the same name replaces', async () => {
    await keepPreset(author, ofRamp(own(author), 'Tide', 0.1));
    const { id } = await keepPreset(author, ofRamp(own(author), 'Tide', 0.2));
    await keepPreset(stranger, ofRamp(own(stranger), 'Tide', 0.9));
    const { presets } = await listPresets(author, { kind: 'ramp', rack: own(author) });
    expect(presets).toMatchObject([{ id, name: 'Tide', value: ramp(0.2), mayEdit: true }]);
    await expect(forgetPreset(librarian, id)).rejects.toMatchObject({ status: 404 });
    await expect(keepPreset(author, ofRamp(own(stranger), 'Mine'))).rejects.toMatchObject({
      code: 'rights.publish',
    });
    await forgetPreset(author, id);
    expect(await names(author, { rack: own(author) })).toEqual([]);
    expect(await names(stranger)).toEqual(['Tide']);
  });
  it('goes up the racks by move and copy, as far as one may', async () => {
    const { id } = await keepPreset(artist, ofRamp(own(artist), 'Rust'));
    await arrangePreset(artist, id, { rack: 'project:ferry', tags: ['orange'] });
    expect(await names(author, { query: 'orang' })).toEqual(['Rust']);
    expect(await names(stranger)).not.toContain('Rust');
    await expect(arrangePreset(artist, id, { rack: 'studio' })).rejects.toMatchObject({
      code: 'rights.publish',
    });
    await copyPreset(author, id, { rack: 'studio', name: 'Old rust' });
    expect(await names(stranger, { query: 'rust' })).toEqual(['Old rust']);
    await expect(
      copyPreset(author, id, { rack: 'project:heron', name: 'Rust' }),
    ).rejects.toMatchObject({ code: 'rights.publish' });
  });
  it('is changed by its author, authors and librarians; names stay apart', async () => {
    const { id } = await keepPreset(author, ofRamp('studio', 'Bell'));
    await expect(arrangePreset(artist, id, { name: 'Mine' })).rejects.toMatchObject({
      code: 'rights.preset',
    });
    await arrangePreset(librarian, id, { name: 'Bell bronze', description: 'Of the harbour bell' });
    expect(await names(artist, { query: 'harbour' })).toEqual(['Bell bronze']);
    const taken = { code: 'preset.name-taken', status: 409 };
    await expect(keepPreset(librarian, ofRamp('studio', 'Bell bronze'))).rejects.toMatchObject(
      taken,
    );
    const other = await keepPreset(author, ofRamp('studio', 'Bell two'));
    await expect(arrangePreset(author, other.id, { name: 'Bell bronze' })).rejects.toMatchObject(
      taken,
    );
    expect(await names(artist, { query: 'bell' })).toEqual(['Bell bronze', 'Bell two']);
  });
  it('of one name, kept by two at once, is kept once and the other is told', async () => {
    const both = await Promise.allSettled(
      [author, librarian].map((user, k) => keepPreset(user, ofRamp('studio', 'Race', k))),
    );
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await names(author, { query: 'race' })).toEqual(['Race']);
  });
  it('is refused with what is wrong with it, before it reaches the studio', () => {
    const { form } = keptRoute.body as { form: { validate: (of: unknown) => { error?: Error } } };
    const bad = (given: object): string =>
      form.validate({ ...ofRamp('studio', 'Bad'), ...given }).error?.message ?? '';
    expect(bad({})).toBe('');
    expect(bad({ value: { stops: [] } })).toMatch(/stops/);
    expect(bad({ kind: 'palette', value: { colours: [[1, 2]] } })).toMatch(/colours/);
    expect(bad({ kind: 'curve' })).toMatch(/points/);
    expect(bad({ kind: 'starter' })).toMatch(/kind/);
    expect(bad({ kind: 'palette', value: { colours: Array(65).fill([0, 0, 0]) } })).not.toBe('');
  });
  it('has an end: beyond the most, one is told and the others stay', async () => {
    const rack = 'project:ferry';
    for (let k = 0; k < MOST_PRESETS; k++)
      await keepPreset(artist, {
        ...ofRamp(rack, `Palette ${String(k)}`),
        kind: 'palette',
        value: {
          colours: [[0, 0, k]],
        },
      });
    const more = (name: string): PresetGiven => ({
      ...ofRamp(rack, name),
      kind: 'palette',
      value: { colours: [[1, 1, 1]] },
    });
    await expect(keepPreset(artist, more('One more'))).rejects.toMatchObject({
      code: 'preset.too-many',
    });
    await keepPreset(artist, more('Palette 3'));
    const pages = await Promise.all(
      ['0', '400', '500'].map((first) => listPresets(artist, { kind: 'palette', first })),
    );
    expect(pages.map(({ presets, hasMore }) => [presets.length, hasMore])).toEqual([
      [100, true],
      [100, false],
      [0, false],
    ]);
  });
});

describe('a variant on a rack', () => {
  const variant = (rack: string, entryId: string, values: object = { 'no-such-dial': 2 }) =>
    ({
      ...{ kind: 'variant', rack, name: `Coarse ${rack}`, description: '', tags: [] },
      value: { entryId, values },
    }) as PresetGiven;

  it('belongs to an entry, shows its picture, and is seen where the entry is', async () => {
    const { entryId } = await publishedEntry(author, 'Grain of variants');
    const { groups } = await openRelease(author, entryId, '1.0.0');
    const [dial] = groups.definitions[groups.root]?.dials ?? [];
    const values = { [dial?.id ?? '']: 3 };
    const { id } = await keepPreset(artist, variant('project:ferry', entryId, values));
    const job = (await listJobs(artist.id, 50)).find(({ kind }) => kind === 'preset swatch');
    expect((await workOff(job?.id ?? ''))?.state).toBe('done');
    const [kept] = (await listPresets(author, { entry: entryId })).presets;
    expect(kept).toMatchObject({ id, entryName: 'Grain of variants', kind: 'variant' });
    expect(await findPicture(author, kept?.swatchHash ?? '')).toBeDefined();
    expect(await findPicture(stranger, kept?.swatchHash ?? '')).toBeUndefined();
    await arrangeEntry(author, entryId, { rack: 'project:ferry' });
    await expect(keepPreset(author, variant('studio', entryId))).rejects.toMatchObject({
      code: 'preset.entry-elsewhere',
    });
    await expect(keepPreset(stranger, variant(own(stranger), entryId))).rejects.toMatchObject({
      code: 'entry.not-found',
    });
    await arrangeEntry(author, entryId, { rack: own(author) });
    expect((await listPresets(artist, { entry: entryId })).presets).toEqual([]);
    expect((await openEntry(author, entryId)).name).toBe('Grain of variants');
  });
});

describe('a starter on a rack', () => {
  it('is a saved material with its model; a list names it without its network', async () => {
    const { id: materialId } = await make(artist);
    const given = {
      materialId,
      rack: 'project:ferry',
      description: 'Begins grey',
      tags: ['paint'],
    };
    await keepStarter(artist, { ...given, name: 'Grey hull' });
    const [listed] = (await listPresets(author, { kind: 'starter' })).presets;
    expect(listed).toMatchObject({ name: 'Grey hull', value: null });
    const opened = await openStarter(author, listed?.id ?? '');
    expect(opened.value).toEqual({ document: painted(), modelId: 'demo-tile' });
    await expect(openStarter(stranger, listed?.id ?? '')).rejects.toMatchObject({ status: 404 });
    await expect(keepStarter(stranger, { ...given, name: 'Theirs' })).rejects.toMatchObject({
      code: 'material.not-found',
    });
    const { presets } = await listPresets(author, { kind: 'ramp' });
    await expect(openStarter(author, presets[0]?.id ?? '')).rejects.toMatchObject({
      code: 'preset.no-starter',
    });
    const [row] = await findPresets({
      ...{ racks: ['project:ferry'], entryRacks: [], kind: 'starter', entryId: null },
      ...{ query: 'paint', first: 0, count: 5 },
    });
    expect(row).toMatchObject({ name: 'Grey hull' });
  });
});
