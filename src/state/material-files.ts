import { bringMaterialFile, saveMaterialFile } from '../contract/material-files';
import type { BroughtMaterial } from '../contract/material-files';
import { AppError } from '../core/base/diagnostic';
import { MATERIAL_FILE_BYTES } from '../core/exchange/material-manifest';
import { call } from './api';

/** A material with all it needs as a file. @throws ApiFailure */
export async function readMaterialFile(id: string): Promise<Blob> {
  const answer = await call(saveMaterialFile, { params: { id }, query: { model: 'yes' } });
  return answer.blob();
}

/** Brings a material's file into a project. @throws ApiFailure; AppError where it is too large */
export function bringMaterialHere(file: File, project: string): Promise<BroughtMaterial> {
  if (file.size > MATERIAL_FILE_BYTES)
    throw new AppError(
      'material-file.too-large',
      `${file.name} has ${String(Math.ceil(file.size / 1048576))} MB; the limit is 200 MB.`,
      'Save it without its model.',
      { kept: 'Nothing was brought in.' },
    );
  return call(bringMaterialFile, { query: { project }, file });
}
