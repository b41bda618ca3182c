import { bringMaterialFile, saveMaterialFile } from '../contract/material-files';
import type { BroughtMaterial } from '../contract/material-files';
import { createMaterial, openMaterial } from '../contract/materials';
import { readStored } from '../core/compile/upgrade';
import { call } from './api';
import { readWithProgress, sendWithProgress } from './file-transfer';
import type { TransferProgress } from './file-transfer';
import { assertBundleSize } from './group-files';

/** A material with all it needs as a file. @throws ApiFailure */
export const readMaterialFile = async (id: string, onProgress: TransferProgress): Promise<Blob> =>
  readWithProgress(
    await call(saveMaterialFile, { params: { id }, query: { model: 'yes' } }),
    onProgress,
  );

/** Brings a material's file into a project. @throws ApiFailure; AppError where it is too large */
export function bringMaterialHere(
  file: File,
  project: string,
  onProgress: TransferProgress,
): Promise<BroughtMaterial> {
  assertBundleSize(file);
  return sendWithProgress(bringMaterialFile, { query: { project }, file }, onProgress);
}

/** Text that is longer travels as a file. */
const MOST_TEXT = 1_000_000;

/** A material's network as text, to be pasted elsewhere; null where it is too long for that. */
export async function readMaterialText(id: string): Promise<string | null> {
  const { document } = await call(openMaterial, { params: { id } });
  const text = JSON.stringify(document);
  return text.length > MOST_TEXT ? null : text;
}

/**
 * Makes a material of a network that was copied as text.
 * @returns its name; null where the text is no network
 * @throws ApiFailure
 */
export async function pasteMaterial(
  text: string,
  projectId: string,
  modelId: string,
): Promise<string | null> {
  if (text.length > MOST_TEXT || !text.trimStart().startsWith('{')) return null;
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return null;
  }
  const { document } = readStored(raw);
  if (!document) return null;
  await call(createMaterial, { body: { projectId, modelId, document } });
  return document.name;
}
