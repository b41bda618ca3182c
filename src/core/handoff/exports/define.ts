import type { BakeImage, BakePlan } from '../../evaluate/bake';
import type { SurfaceMesh } from '../../mesh/surface-mesh';

/** A file of a hand-off. */
export interface PackagedFile {
  readonly name: string;
  /** Its media type, as IANA lists it. */
  readonly mediaType: string;
  readonly bytes: Uint8Array;
}

/** A finished bake, as the formats of an export find it. */
export interface FinishedBake {
  readonly mesh: SurfaceMesh;
  /** The material's name as people read it, and as files are named. */
  readonly name: string;
  readonly stem: string;
  readonly plan: BakePlan;
  /** The PNG file of a picture of the plan. */
  readonly picture: (image: BakeImage) => Uint8Array;
}

/**
 * A format in which a bake leaves: one file `<id>.export.ts` in this folder is all there is to it.
 */
export interface ExportDefinition {
  readonly title: string;
  readonly help: string;
  /** Which pictures it is made of: maps for other programs, or textures packed for a model. */
  readonly needs: 'maps' | 'textures';
  /** Bits a channel of those, given what was asked for. */
  readonly depth: (asked: 8 | 16) => 8 | 16;
  /** The files, the caller's to keep. */
  readonly write: (bake: FinishedBake) => Promise<readonly PackagedFile[]>;
}
/** Declares a format; a forgotten member is a type error. */
export const defineExport = (definition: ExportDefinition): ExportDefinition => definition;
