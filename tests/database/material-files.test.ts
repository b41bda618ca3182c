/** A material as a file: out of one studio, into another, and what is refused on the way. */
import { createHash, randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { encode as encodePng } from 'fast-png';
import { sql } from 'drizzle-orm';
import { strToU8, unzipSync, zipSync } from 'fflate';
import type { Zippable } from 'fflate';
import type { ImageHash } from '@/core/base/ids';
import { database } from '@/db/client';
import { storeBlob } from '@/db/queries/blobs';
import { findImage, insertImage } from '@/db/queries/images';
import { insertModel } from '@/db/queries/models';
import type { SignedIn } from '@/server/authentication';
import { bringMaterialFile, saveMaterialFile } from '@/server/material-files';
import { createMaterial, openMaterial } from '@/server/materials';
import { documentOf, node } from '../support/networks';
import { outputAt } from '../support/evaluate';
import { bytesOf, spooled } from './files';
import { makePerson, materialsOf, startStudio } from './studio';

const PNG = new Uint8Array(
  encodePng({ width: 2, height: 2, channels: 3, depth: 8, data: new Uint8Array(12).fill(90) }),
);
const IMAGE = createHash('sha256').update(PNG).digest('hex') as ImageHash;
const document = {
  ...documentOf(
    [
      node('p', 'model.position'),
      node('i', 'patterns.image', { image: { image: IMAGE, name: 'Grain' } }),
      node('n', 'patterns.noise', { scale: 7 }),
      node('s', 'ranges.smoothstep', { edge: 0.4 }),
    ],
    ['n:value > s:value'],
  ),
  name: 'Harbour tin',
};

let studio: Awaited<ReturnType<typeof startStudio>>;
let tove: SignedIn;
let tile: Buffer;
let file: Uint8Array<ArrayBuffer>;
const bring = (bytes: Uint8Array, project = 'heron') =>
  bringMaterialFile(tove, project, spooled(bytes));
/** The file with some of its parts exchanged; null leaves one out. */
function altered(parts: Readonly<Record<string, Uint8Array | null>>): Uint8Array {
  const all: Zippable = { ...unzipSync(file) };
  for (const [name, bytes] of Object.entries(parts)) {
    if (bytes) all[name] = bytes;
    else Reflect.deleteProperty(all, name);
  }
  return zipSync(all);
}
const partOf = (name: string): Record<string, unknown> =>
  JSON.parse(new TextDecoder().decode(unzipSync(file)[name])) as Record<string, unknown>;

beforeAll(async () => {
  studio = await startStudio();
  tove = await makePerson('tove', 'artist', ['ferry', 'heron']);
  tile = await readFile(path.resolve(import.meta.dirname, '../../assets/models/tile.glb'));
  const blobHash = await storeBlob(tile, 'model/gltf-binary');
  await insertModel({ id: 'tile', name: 'Tile', projectId: 'ferry', blobHash, ownerId: null });
  await storeBlob(PNG, 'image/png');
  await insertImage({ hash: IMAGE, name: 'Grain', ownerId: tove.id, projectId: null });
  const { id } = await createMaterial(tove, { projectId: 'ferry', modelId: 'tile', document });
  file = await bytesOf((await saveMaterialFile(tove, id, true)).written);
}, 60_000);
afterAll(() => studio.stop());

it('holds the document, the image and the model, as they are', () => {
  const parts = unzipSync(file);
  expect(Object.keys(parts).sort()).toEqual(
    ['document.json', `images/${IMAGE}`, 'manifest.json', 'model.glb'].sort(),
  );
  expect(Buffer.from(parts['model.glb'] ?? []).equals(tile)).toBe(true);
  expect(partOf('document.json')).toEqual(JSON.parse(JSON.stringify(document)));
});

it('is brought into an empty studio, equal to the bit, and once however often', async () => {
  await studio.stop();
  studio = await startStudio();
  tove = await makePerson('tove', 'artist', ['ferry', 'heron']);
  const both = await Promise.all([bring(file), bring(file)]);
  expect(both.map(({ isThere }) => isThere).sort()).toEqual([false, true]);
  expect(await bring(file)).toMatchObject({ isThere: true, missing: [] });
  expect(await materialsOf(tove)).toHaveLength(1);
  const opened = await openMaterial(tove, both[0].id);
  expect(opened.document).toEqual(document);
  expect(Buffer.from((await findImage(IMAGE))?.bytes ?? []).equals(Buffer.from(PNG))).toBe(true);
  const places = Float32Array.from({ length: 4096 }, (_, k) => k / 511);
  const lanes = { 'position.x': places, 'position.y': places, 'position.z': places };
  const [before] = outputAt(document, 's:mask', lanes, 4096);
  const [after] = outputAt(opened.document, 's:mask', lanes, 4096);
  expect(after).toEqual(before);
});

it('takes another name where its own is taken, and is found again under it', async () => {
  const other = {
    ...partOf('document.json'),
    opacityMode: 'cut-off',
  };
  const changed = altered({ 'document.json': strToU8(JSON.stringify(other)) });
  const first = await bring(changed);
  expect(first.name).toBe('Harbour tin 2');
  expect(await bring(changed)).toMatchObject({ id: first.id, isThere: true });
});

it('says what is missing, before and after', async () => {
  const manifest = partOf('manifest.json');
  const bare = altered({
    'manifest.json': strToU8(JSON.stringify({ ...manifest, model: { name: 'Tile', file: null } })),
    'model.glb': null,
  });
  const brought = await bring(bare, 'ferry');
  expect(brought.missing).toEqual([expect.stringContaining('the model “Tile”')]);
});

it('stops where nobody takes more of it, and where what it reads goes meanwhile', async () => {
  const blobHash = await storeBlob(randomBytes(3 * 1024 * 1024), 'model/gltf-binary');
  await insertModel({ id: 'large', name: 'Large', projectId: 'heron', blobHash, ownerId: null });
  const { id } = await createMaterial(tove, {
    projectId: 'heron',
    modelId: 'large',
    document: { ...document, name: 'Large tin' },
  });
  const left = (await saveMaterialFile(tove, id, true)).written.stream.getReader();
  expect((await left.read()).done).toBe(false);
  await left.cancel();
  const cut = (await saveMaterialFile(tove, id, true)).written;
  await database().execute(sql`alter table model drop constraint model_blob_hash_blob_hash_fk`);
  await database().execute(sql`update blob set hash = 'gone' where hash = ${blobHash}`);
  await expect(new Response(cut.stream).arrayBuffer()).rejects.toThrow();
});

it('refuses a file whose model is none, and takes many at once', async () => {
  const named = (name: string): Record<string, Uint8Array> => ({
    'document.json': strToU8(JSON.stringify({ ...partOf('document.json'), name })),
  });
  const broken = altered({ ...named('Tin of none'), 'model.glb': new Uint8Array(64).fill(255) });
  const before = await materialsOf(tove);
  await expect(bring(broken)).rejects.toThrow();
  expect(await materialsOf(tove)).toEqual(before);
  const names = Array.from({ length: 14 }, (_, k) => `Tin of ${String(k)}`);
  const brought = await Promise.all(names.map((name) => bring(altered(named(name)))));
  expect(brought.map(({ name }) => name)).toEqual(names);
});

it.each([
  ['no zip', () => strToU8('hello'), 'file.not-zip'],
  ['cut off', () => file.slice(0, 200), 'file.not-zip'],
  ['another format', () => zipSync({ 'a.txt': strToU8('a') }), 'file.part'],
  [
    'a foreign manifest',
    () => altered({ 'manifest.json': strToU8('{"format":"other"}') }),
    'file.foreign',
  ],
  [
    'a newer version',
    () =>
      altered({
        'manifest.json': strToU8(JSON.stringify({ ...partOf('manifest.json'), version: 99 })),
      }),
    'file.newer',
  ],
  [
    'a path that leads outside',
    () => altered({ '../../etc/passwd': strToU8('root') }),
    'file.path',
  ],
  ['a bomb', () => altered({ 'document.json': new Uint8Array(64 * 1048576) }), 'file.unfolds'],
  [
    'an image that is another',
    () => altered({ [`images/${IMAGE}`]: strToU8('not it') }),
    'file.image',
  ],
  [
    'a network that is none',
    () => altered({ 'document.json': strToU8('{"version":1}') }),
    'file.document',
  ],
])('refuses %s, and keeps nothing of it', async (_what, make, code) => {
  const before = await materialsOf(tove);
  await expect(bring(make())).rejects.toMatchObject({ code, kept: 'Nothing was brought in.' });
  expect(await materialsOf(tove)).toEqual(before);
});

it('is for members of the project alone', async () => {
  await expect(bring(file, 'elsewhere')).rejects.toMatchObject({ status: 403 });
});
