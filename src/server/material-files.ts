import { createHash, randomUUID } from 'node:crypto';
import path from 'node:path';
import { Piscina } from 'piscina';
import { AppError } from '@/core/base/diagnostic';
import { imagesIn } from '@/core/compile/images';
import { readStored } from '@/core/compile/upgrade';
import { MEDIA_TYPES, checkImageHeader } from '@/core/exchange/images';
import { packMaterial } from '@/core/exchange/material-file';
import { MATERIAL_FILE_VERSION, MATERIAL_FORMAT } from '@/core/exchange/material-manifest';
import type { MaterialFile } from '@/core/exchange/material-manifest';
import { hashContent } from '@/core/graph/canonical';
import type { NetworkDocument } from '@/core/graph/document';
import { preparationForm } from '@/contract/model-forms';
import type { BroughtMaterial } from '@/contract/material-files';
import { inTurn } from '@/db/queries/turns';
import type { Executor } from '@/db/client';
import { findBlob, storeBlob } from '@/db/queries/blobs';
import { findImage, insertImage } from '@/db/queries/images';
import { findSameMaterial, isNameTaken } from '@/db/queries/materials';
import { findModel, findModelOfFile, insertModel } from '@/db/queries/models';
import type { SignedIn } from './authentication';
import type { Unpacked } from './http/unpack-thread';
import { createMaterial, openMaterial } from './materials';
import { listModels, storeModelFile } from './models';
import { assertMember } from './projects';
import { bringInto } from './storage';

const NOTHING = 'Nothing was brought in.';
const refused = (code: string, message: string, action = ''): AppError =>
  new AppError(`material-file.${code}`, message, action, { kept: NOTHING, status: 422 });

/** A material with its groups and images as a file; with its model where that is wished. */
export async function saveMaterialFile(
  user: SignedIn,
  id: string,
  withModel: boolean,
): Promise<{ name: string; bytes: Uint8Array<ArrayBuffer> }> {
  const { name, document, modelId } = await openMaterial(user, id);
  const files = new Map<string, Uint8Array<ArrayBuffer>>();
  const images: { hash: string; file: string | null }[] = [];
  for (const hash of new Set(imagesIn(document))) {
    const image = await findImage(hash);
    const file = image ? `images/${hash}` : null;
    if (image && file) files.set(file, new Uint8Array(image.bytes));
    images.push({ hash, file });
  }
  const model = await findModel(user.id, modelId);
  const blob = withModel && model ? await findBlob(model.blobHash) : undefined;
  const modelFile = blob ? `model.${blob.mediaType === 'model/obj' ? 'obj' : 'glb'}` : null;
  if (blob && modelFile) files.set(modelFile, new Uint8Array(blob.bytes));
  const bytes = packMaterial({
    manifest: {
      format: MATERIAL_FORMAT,
      version: MATERIAL_FILE_VERSION,
      name,
      model: {
        name: model?.name ?? 'Model',
        file: modelFile,
        preparation: model?.preparation ?? {},
      },
      images,
    },
    document,
    files,
  });
  return { name, bytes };
}

const kept = globalThis as unknown as { brightLoomUnpacking?: Piscina };
const threads = (): Piscina =>
  (kept.brightLoomUnpacking ??= new Piscina({
    filename: path.resolve(process.cwd(), 'src/server/http/unpack-thread.ts'),
    execArgv: ['--import', 'tsx'],
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: 1024 },
  }));
/** Ends the threads; for tests and the end of the process. */
export async function closeUnpacking(): Promise<void> {
  const open = kept.brightLoomUnpacking;
  delete kept.brightLoomUnpacking;
  await open?.destroy();
}

async function unpack(bytes: Uint8Array<ArrayBuffer>): Promise<MaterialFile> {
  const unpacked = (await threads().run(bytes, {
    transferList: [bytes.buffer],
    signal: AbortSignal.timeout(60_000),
  })) as Unpacked;
  if ('file' in unpacked) return unpacked.file;
  const { code, message, action } = unpacked.problem;
  throw new AppError(code, message, action, { kept: NOTHING, status: 422 });
}

/** The document a file holds, of this release. @throws AppError where it is none */
function readDocument({ document: raw, manifest }: MaterialFile): NetworkDocument {
  const { document, diagnostics } = readStored(raw);
  if (document) return { ...document, name: document.name || manifest.name };
  throw refused(
    'document',
    `The network in the file cannot be read: ${diagnostics[0]?.message ?? 'it is none'}`,
    'Save the file anew, or bring the studio up to date.',
  );
}

/** Images of the file that are what their names say. @throws AppError for one that is not */
function readImages({ manifest, files }: MaterialFile): ReadonlyMap<string, Uint8Array> {
  const images = new Map<string, Uint8Array>();
  for (const { hash, file } of manifest.images) {
    const bytes = file === null ? undefined : files.get(file);
    if (!bytes) continue;
    if (createHash('sha256').update(bytes).digest('hex') !== hash)
      throw refused('image', `The image ${hash.slice(0, 12)}… is not what the file says it is.`);
    checkImageHeader(bytes);
    images.set(hash, bytes);
  }
  return images;
}

/** The model of a file in a project: the same that is there, or a new one. */
async function placeModel(
  user: SignedIn,
  projectId: string,
  { manifest: { model }, files }: MaterialFile,
  tx: Executor,
): Promise<{ id: string; missing: readonly string[] }> {
  const bytes = model.file === null ? undefined : files.get(model.file);
  if (!bytes) {
    const [first] = (await listModels(user)).filter(({ isArchived }) => !isArchived);
    if (!first)
      throw refused(
        'model',
        `The model “${model.name}” is not in the file, and there is no other.`,
        'Save the file with its model, or bring a model first.',
      );
    const missing = `the model “${model.name}”: it stands on “${first.name}”`;
    return { id: first.id, missing: [missing] };
  }
  const { error } = preparationForm.validate(model.preparation) as { error?: Error };
  const preparation = error ? {} : model.preparation;
  const blobHash = await storeModelFile(bytes, tx);
  const known = await findModelOfFile(projectId, blobHash, preparation);
  if (known !== undefined) return { id: known, missing: [] };
  const id = randomUUID();
  const { name } = model;
  await insertModel({ id, name, projectId, blobHash, ownerId: user.id, preparation }, tx);
  return { id, missing: [] };
}

async function keepImages(
  user: SignedIn,
  projectId: string,
  from: string,
  images: ReadonlyMap<string, Uint8Array>,
  tx: Executor,
): Promise<void> {
  const name = `From ${from}`.slice(0, 120);
  for (const [hash, bytes] of images) {
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
  readFile: () => Promise<Uint8Array<ArrayBuffer>>,
): Promise<BroughtMaterial> {
  await assertMember(user, projectId, NOTHING);
  const file = await unpack(await readFile());
  const given = readDocument(file);
  const images = readImages(file);
  const contentHash = await hashContent(given);
  // Of two who bring the same at once, one makes it and the other finds it.
  return inTurn(`${projectId} ${contentHash}`, async () => {
    const place = await findPlace(projectId, given);
    if ('there' in place) return { ...place.there, isThere: true, missing: [] };
    const model = await bringInto(projectId, NOTHING, async (tx) => {
      await keepImages(user, projectId, given.name, images, tx);
      return placeModel(user, projectId, file, tx);
    });
    const missing: string[] = [];
    for (const hash of new Set(imagesIn(given)))
      if (!(await findImage(hash))) missing.push(`the image ${hash.slice(0, 12)}…`);
    const { document } = place;
    const { id } = await createMaterial(user, { projectId, modelId: model.id, document });
    return { id, name: document.name, isThere: false, missing: [...missing, ...model.missing] };
  });
}
