import { bundleRefused, fileNameOf, imagesOf, isGiven, readManifestOf } from './bundle';
import type { BundledImage } from './bundle';
import type { ModelPreparation } from './prepare';

/** What a file says it is. */
export const MATERIAL_FORMAT = 'bright-loom-material';
/** Raised when what a file holds changes. */
export const MATERIAL_FILE_VERSION = 1;

/** What a material's file says of itself: `manifest.json`. */
export interface MaterialManifest {
  readonly format: typeof MATERIAL_FORMAT;
  readonly version: number;
  readonly name: string;
  /** The model it was made on; `file` is null where only its name travels. */
  readonly model: {
    readonly name: string;
    readonly file: string | null;
    readonly preparation: ModelPreparation;
  };
  readonly images: readonly BundledImage[];
}

/** Reads a material's manifest. @throws AppError for what is none */
export function readMaterialManifest(raw: unknown): MaterialManifest {
  const version = MATERIAL_FILE_VERSION;
  const given = readManifestOf(raw, { format: MATERIAL_FORMAT, version, what: 'a material' });
  const { name, model, images } = given;
  if (typeof name !== 'string' || !isGiven(model) || !Array.isArray(images))
    throw bundleRefused('manifest', 'The file’s manifest lacks a name, a model or images.');
  return {
    format: MATERIAL_FORMAT,
    version,
    name: name.slice(0, 120),
    model: {
      name: typeof model['name'] === 'string' ? model['name'].slice(0, 120) : 'Model',
      file: fileNameOf(model['file']),
      preparation: isGiven(model['preparation']) ? model['preparation'] : {},
    },
    images: imagesOf(images),
  };
}
