import { readFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { hashContent } from '@/core/graph/canonical';
import { emptyDocument } from '@/core/graph/document';
import type { NetworkDocument } from '@/core/graph/document';
import { storeBlob } from '@/db/queries/blobs';
import { insertMaterial } from '@/db/queries/materials';
import { insertModel } from '@/db/queries/models';
import type { SignedIn } from '@/server/authentication';
import { openMaterial, saveMaterial } from '@/server/materials';
import { makePerson, startStudio } from './studio';

let studio: Awaited<ReturnType<typeof startStudio>>;
let author: SignedIn;

beforeAll(async () => {
  studio = await startStudio();
  author = await makePerson('author', 'author', ['ferry']);
  const blobHash = await storeBlob(readFileSync('assets/models/tile.glb'), 'model/gltf-binary');
  await insertModel({ id: 'demo-tile', name: 'Tile', projectId: null, blobHash, ownerId: null });
}, 180000);
afterAll(() => studio.stop());

/** Puts a document into the database as another release of the program stored it. */
async function store(raw: unknown): Promise<string> {
  const id = randomUUID();
  const document = raw as NetworkDocument;
  const contentHash = await hashContent(document);
  const kept = { name: document.name, modelId: 'demo-tile', document, contentHash };
  await insertMaterial({ id, projectId: 'ferry', ownerId: author.id, ...kept });
  return id;
}

describe('materials that another release stored', () => {
  it('of an earlier version open as the present one, and are saved on top', async () => {
    const [rope] = JSON.parse(readFileSync('tests/stored/before-0-1/ropes.json', 'utf8')) as {
      document: { version: number };
    }[];
    expect(rope?.document.version).toBe(0);
    const id = await store(rope?.document);
    const { document } = await openMaterial(author, id);
    expect([document.version, document.opacityMode]).toEqual([1, 'dithered']);
    const stripes = document.network.nodes.find(({ type }) => type === 'patterns.stripes');
    expect([stripes?.version, stripes?.values['whiteShare']]).toEqual([2, 0.3]);
    const saved = await saveMaterial(author, id, { base: 1, modelId: 'demo-tile', document });
    expect(saved).toEqual({ revision: 2 });
  });

  it('of a newer version are refused with what to do, and stay as they are', async () => {
    const id = await store({ ...emptyDocument('Later'), version: 99, more: true });
    await expect(openMaterial(author, id)).rejects.toMatchObject({
      code: 'document.unreadable',
      status: 409,
      kept: 'It is kept as it was saved.',
      findings: [{ code: 'document.version', pointer: '/version' }],
    });
  });
});
