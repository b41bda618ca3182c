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
  /** The images it names, by the SHA-256 of their files; `file` is null where one was missing. */
  readonly images: readonly { readonly hash: string; readonly file: string | null }[];
}
/** A material with all it needs, as it travels. */
export interface MaterialFile {
  readonly manifest: MaterialManifest;
  /** JSON of the network document, not checked yet. */
  readonly document: unknown;
  /** By the names the manifest gives. */
  readonly files: ReadonlyMap<string, Uint8Array<ArrayBuffer>>;
}

/** The file as it is sent, bytes at most. */
export const MATERIAL_FILE_BYTES = 200 * 1048576;
