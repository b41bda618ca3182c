import { createHash, randomUUID } from 'node:crypto';
import { imagesIn } from '@/core/compile/images';
import { readStored } from '@/core/compile/upgrade';
import { BUNDLE_BYTES, bundleRefused } from '@/core/exchange/bundle';
import { MEDIA_TYPES, checkImageHeader } from '@/core/exchange/images';
import {
  MATERIAL_FILE_VERSION,
  MATERIAL_FORMAT,
  readMaterialManifest,
} from '@/core/exchange/material-manifest';
import type { MaterialManifest } from '@/core/exchange/material-manifest';
import { modelFormat } from '@/core/exchange/model-format';
import { hashContent } from '@/core/graph/canonical';
import type { NetworkDocument } from '@/core/graph/document';
import { preparationForm } from '@/contract/model-forms';
import type { BroughtMaterial } from '@/contract/material-files';
import type { Executor } from '@/db/client';
import { inTurn } from '@/db/queries/turns';
import { findBlobHead, storeBlob, storeBlobChunks } from '@/db/queries/blobs';
import { hasImage, insertImage } from '@/db/queries/images';
import { findSameMaterial, isNameTaken } from '@/db/queries/materials';
import { findModel, findModelOfFile, insertModel } from '@/db/queries/models';
import type { SignedIn } from './authentication';
import { openBundle, writeBundle } from './bundle';
import type { OpenBundle, WrittenBundle } from './bundle';
import type { SpooledFile } from './http/spool';
import { createMaterial, openMaterial } from './materials';
import { listModels } from './models';
import { assertMember } from './projects';
import { assertRoom, bringInto } from './storage';

/** Most bytes that are read of a model to tell what it is. */
const HEAD = 65536;
const NOTHING = 'Nothing was brought in.';

/** The images that documents name, as a file lists them, and those the studio has. */
export async function bundleImages(hashes: Iterable<string>) {
  const stored = new Map<string, string>();
  const images: { hash: string; file: string | null }[] = [];
  for (const hash of new Set(hashes)) {
    const file = (await hasImage(hash)) ? `images/${hash}` : null;
    if (file !== null) stored.set(file, hash);
    images.push({ hash, file });
  }
  return { images, stored };
}

/** A material with its groups and images as a file; with its model where that is wished. */
export async function saveMaterialFile(
  user: SignedIn,
  id: string,
  withModel: boolean,
): Promise<{ name: string; written: WrittenBundle }> {
  const { name, document, modelId } = await openMaterial(user, id);
  const { images, stored } = await bundleImages(imagesIn(document));
  const model = await findModel(user.id, modelId);
  const head = withModel && model ? await findBlobHead(model.blobHash, 1) : undefined;
  const modelFile = head ? `model.${head.mediaType === 'model/obj' ? 'obj' : 'glb'}` : null;
  if (model && modelFile) stored.set(modelFile, model.blobHash);
  const manifest: MaterialManifest = {
    format: MATERIAL_FORMAT,
    version: MATERIAL_FILE_VERSION,
    name,
    model: {
      name: model?.name ?? 'Model',
      file: modelFile,
      preparation: model?.preparation ?? {},
    },
    images,
  };
  const json = { 'manifest.json': manifest, 'document.json': document };
  return { name, written: await writeBundle(json, stored) };
}

/** A material's file that was opened and judged. */
interface GivenMaterial {
  readonly manifest: MaterialManifest;
  readonly document: NetworkDocument;
  readonly bundle: OpenBundle;
  /** The names of the parts with images, by their hashes. */
  readonly images: ReadonlyMap<string, string>;
}

/** Opens a material's file and judges all of it but the model's inside. @throws AppError */
async function readGiven(file: SpooledFile): Promise<GivenMaterial> {
  const bundle = await openBundle(file);
  const manifest = readMaterialManifest(await bundle.json('manifest.json'));
  const document = readDocument(await bundle.json('document.json'), manifest);
  return { manifest, document, bundle, images: await judgeImages(bundle, manifest.images) };
}

/** The document of a file, of this release. @throws AppError where it is none */
function readDocument(raw: unknown, { name }: MaterialManifest): NetworkDocument {
  const { document, diagnostics } = readStored(raw);
  if (document) return { ...document, name: document.name || name };
  throw bundleRefused(
    'document',
    `The network in the file cannot be read: ${diagnostics[0]?.message ?? 'it is none'}`,
    'Save the file anew, or bring the studio up to date.',
  );
}

/**
 * Images of a file that are what their names say, by their hashes.
 * @throws AppError for one that is not
 */
export async function judgeImages(
  bundle: OpenBundle,
  listed: readonly { readonly hash: string; readonly file: string | null }[],
): Promise<ReadonlyMap<string, string>> {
  const images = new Map<string, string>();
  for (const { hash, file } of listed) {
    if (file === null || !bundle.names.includes(file)) continue;
    const bytes = await bundle.read(file);
    if (createHash('sha256').update(bytes).digest('hex') !== hash)
      throw bundleRefused('image', `The image ${hash.slice(0, 12)}… is not what the file says.`);
    checkImageHeader(bytes);
    images.set(hash, file);
  }
  return images;
}

/** The beginning of a part. */
async function headOf(bundle: OpenBundle, name: string): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  let held = 0;
  for await (const chunk of bundle.stream(name)) {
    chunks.push(chunk);
    held += chunk.length;
    if (held >= HEAD) break;
  }
  return new Uint8Array(Buffer.concat(chunks).subarray(0, HEAD));
}

/** The model of a file in a project: the same that is there, or a new one. */
async function placeModel(
  user: SignedIn,
  projectId: string,
  { manifest: { model }, bundle }: GivenMaterial,
  tx: Executor,
): Promise<{ id: string; missing: readonly string[] }> {
  const { file } = model;
  if (file === null || !bundle.names.includes(file)) return standIn(user, model.name);
  const { error } = preparationForm.validate(model.preparation) as { error?: Error };
  const preparation = error ? {} : model.preparation;
  const format = modelFormat(await headOf(bundle, file), bundle.sizeOf(file));
  const mediaType = format === 'obj' ? 'model/obj' : 'model/gltf-binary';
  const blobHash = await storeBlobChunks(bundle.stream(file), mediaType, tx);
  const known = await findModelOfFile(projectId, blobHash, preparation);
  if (known !== undefined) return { id: known, missing: [] };
  const id = randomUUID();
  const { name } = model;
  await insertModel({ id, name, projectId, blobHash, ownerId: user.id, preparation }, tx);
  return { id, missing: [] };
}

/** A model of the studio in the place of one that did not come along. */
async function standIn(
  user: SignedIn,
  name: string,
): Promise<{ id: string; missing: readonly string[] }> {
  const [first] = (await listModels(user)).filter(({ isArchived }) => !isArchived);
  if (!first)
    throw bundleRefused(
      'model',
      `The model “${name}” is not in the file, and there is no other.`,
      'Save the file with its model, or bring a model first.',
    );
  return { id: first.id, missing: [`the model “${name}”: it stands on “${first.name}”`] };
}

/** Keeps the images of a file, one after the other. */
export async function keepImages(
  user: Pick<SignedIn, 'id'>,
  { from, projectId }: { readonly from: string; readonly projectId: string | null },
  bundle: OpenBundle,
  images: ReadonlyMap<string, string>,
  tx?: Executor,
): Promise<void> {
  const name = `From ${from}`.slice(0, 120);
  for (const [hash, file] of images) {
    const bytes = await bundle.read(file);
    await storeBlob(bytes, MEDIA_TYPES[checkImageHeader(bytes)], tx);
    await insertImage({ hash, name, ownerId: user.id, projectId }, tx);
  }
}

/** The document under a name that is free in a project; or the same that is there already. */
async function findPlace(
  projectId: string,
  given: NetworkDocument,
): Promise<
  | { readonly there: { readonly id: string; readonly name: string } }
  | { readonly document: NetworkDocument }
> {
  for (let k = 1; ; k++) {
    const name = k === 1 ? given.name : `${given.name} ${String(k)}`;
    const document = { ...given, name };
    const there = await findSameMaterial(projectId, await hashContent(document));
    if (there) return { there };
    if (!(await isNameTaken(projectId, name, ''))) return { document };
  }
}

/**
 * Brings a material's file into a project. All of it is judged before any of it is kept; the same
 * file again changes nothing.
 * @throws AppError where it cannot be brought in
 */
export async function bringMaterialFile(
  user: SignedIn,
  projectId: string,
  spoolFile: (limit: number) => Promise<SpooledFile>,
  sentBytes = 0,
): Promise<BroughtMaterial> {
  await assertMember(user, projectId, NOTHING);
  await assertRoom(projectId, sentBytes, NOTHING);
  const file = await spoolFile(BUNDLE_BYTES);
  try {
    const given = await readGiven(file);
    const contentHash = await hashContent(given.document);
    // Of two who bring the same at once, one makes it and the other finds it.
    return await inTurn(`${projectId} ${contentHash}`, () => keepGiven(user, projectId, given));
  } finally {
    await file.handle.close();
  }
}

async function keepGiven(
  user: SignedIn,
  projectId: string,
  given: GivenMaterial,
): Promise<BroughtMaterial> {
  const place = await findPlace(projectId, given.document);
  if ('there' in place) return { ...place.there, isThere: true, missing: [] };
  const from = given.document.name;
  const model = await bringInto(projectId, NOTHING, async (tx) => {
    await keepImages(user, { from, projectId }, given.bundle, given.images, tx);
    return placeModel(user, projectId, given, tx);
  });
  const missing: string[] = [];
  for (const hash of new Set(imagesIn(given.document)))
    if (!(await hasImage(hash))) missing.push(`the image ${hash.slice(0, 12)}…`);
  const { document } = place;
  const { id } = await createMaterial(user, { projectId, modelId: model.id, document });
  return { id, name: document.name, isThere: false, missing: [...missing, ...model.missing] };
}
