import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { setValue } from '@/core/edit/nodes';
import type { GroupDefinition, NetworkDocument, NodeInstance } from '@/core/graph/document';
import { listJobs } from '@/db/queries/jobs';
import { findEntryByName } from '@/db/queries/library';
import type { SignedIn } from '@/server/authentication';
import { withdraw } from '@/server/entry-places';
import { openEntry, openRelease, searchLibrary } from '@/server/library';
import { startPublication } from '@/server/publication';
import { saveMaterial } from '@/server/materials';
import { findPicture } from '@/server/pictures';
import { mayPublish } from '@/server/rights';
import { USUAL_RULES } from '@/server/rules';
import { node } from '../support/networks';
import { workOff } from './studio';
import { make, painted, startFerryStudio } from './ferry-studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, artist: SignedIn, stranger: SignedIn, librarian: SignedIn;
beforeAll(async () => {
  ({ studio, author, artist, stranger, librarian } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

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
const request = (from: { materialId: string; groupId: string }, name: string, rack = 'studio') => ({
  ...from,
  revision: 2,
  rack,
  name,
  description: 'Fine grain',
  tags: ['mask'],
  next: null,
  notes: '',
});

describe('the library', () => {
  it('publishes what the server itself has proved, and lets others find it', async () => {
    const { id } = await startPublication(author, request(await packaged(author), 'Grain'));
    const done = await workOff(id);
    expect(done).toMatchObject({
      state: 'done',
      result: { proof: { identical: true, points: 4096 } },
    });
    const found = await searchLibrary(stranger, { query: 'fine mask' });
    expect(found.entries.map((entry) => entry.name)).toEqual(['Grain']);
    const entry = await openEntry(stranger, found.entries[0]?.id ?? '');
    expect(entry.releases[0]).toMatchObject({ version: '1.0.0', withdrawnAt: null });
    expect(await findPicture(stranger, entry.releases[0]?.swatchHash ?? '')).toBeDefined();
    expect(await workOff(id)).toEqual(done);
    expect((await openEntry(author, entry.id)).releases).toHaveLength(1);
  }, 180000);

  it('keeps the proof sheet of a release; a job makes it, and twice is once', async () => {
    const { id } = await startPublication(author, request(await packaged(author), 'Sheeted grain'));
    await workOff(id);
    const entry = await findEntryByName('studio', 'Sheeted grain');
    const open = () => openRelease(stranger, entry?.id ?? '', '1.0.0');
    expect(await open()).toMatchObject({ sheet: null, sheetHash: null });
    const asked = (await listJobs(author.id, 50)).find(
      ({ kind, title }) => kind === 'proof sheet' && title.includes('Sheeted grain'),
    );
    expect(await workOff(asked?.id ?? '')).toMatchObject({ state: 'done' });
    const { sheet, sheetHash } = await open();
    expect(sheet?.lines.map(({ title }) => title)).toEqual(['Size']);
    expect(sheet?.models).toHaveLength(3);
    expect(sheet?.shares).toHaveLength(9);
    // Low, home, high on each model: home is the same, the ends are not.
    sheet?.shares.forEach((share, k) => {
      if (k % 3 === 1) expect(share).toBe(0);
      else expect(share).toBeGreaterThan(0);
    });
    expect(await findPicture(stranger, sheetHash ?? '')).toMatchObject({ mediaType: 'image/png' });
    await workOff(asked?.id ?? '');
    expect((await open()).sheetHash).toBe(sheetHash);
    await withdraw(librarian, entry?.id ?? '', '1.0.0', 'Too coarse');
    expect(await findPicture(stranger, sheetHash ?? '')).toBeUndefined();
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
    expect(mayPublish(artist, 'studio', ['ferry'], USUAL_RULES)).toBe(false);
    expect(mayPublish(artist, 'project:ferry', ['ferry'], USUAL_RULES)).toBe(true);
    expect(mayPublish(artist, 'project:heron', ['ferry'], USUAL_RULES)).toBe(false);
    expect(mayPublish(artist, 'person:artist', [], USUAL_RULES)).toBe(true);
    expect(mayPublish(librarian, 'person:artist', [], USUAL_RULES)).toBe(false);
    expect(mayPublish(author, 'studio', [], USUAL_RULES)).toBe(true);
    expect(mayPublish(librarian, 'elsewhere', [], USUAL_RULES)).toBe(false);
    const mine = await packaged(artist);
    await expect(startPublication(artist, request(mine, 'Not mine'))).rejects.toMatchObject({
      status: 403,
      code: 'rights.publish',
    });
    await expect(
      startPublication(stranger, request(mine, 'Not mine', 'project:heron')),
    ).rejects.toMatchObject({ status: 404 });
    const { id } = await startPublication(artist, request(mine, 'Project grain', 'project:ferry'));
    await workOff(id);
    expect((await searchLibrary(author, { query: 'project grain' })).entries).toHaveLength(1);
    expect((await searchLibrary(stranger, { query: 'project grain' })).entries).toHaveLength(0);
    const entry = await findEntryByName('project:ferry', 'Project grain');
    await expect(openEntry(stranger, entry?.id ?? '')).rejects.toMatchObject({ status: 404 });
    await expect(withdraw(author, entry?.id ?? '', '1.0.0', 'no')).rejects.toMatchObject({
      status: 403,
    });
    await withdraw(librarian, entry?.id ?? '', '1.0.0', 'Seams on the bell');
    expect((await openEntry(author, entry?.id ?? '')).releases[0]?.withdrawnReason).toBe(
      'Seams on the bell',
    );
    expect((await searchLibrary(author, { query: 'project grain' })).entries).toHaveLength(0);
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

  it('takes no second entry of a name', async () => {
    const again = await packaged(author);
    await expect(startPublication(author, request(again, 'Grain'))).rejects.toMatchObject({
      code: 'entry.name-taken',
    });
  });
});
