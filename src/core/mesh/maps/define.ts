import type { Vec3 } from '../../base/vector';
import type { DetailNormals } from '../detail-normals';
import type { MeshKernel } from '../mesh-kernel';
import type { SamplePoints } from '../sample-points';
import type { SurfaceMesh } from '../surface-mesh';

/** What one setting of a map may be; types and the checks at every edge follow from it. */
export type SettingForm =
  | { readonly type: 'number'; readonly least: number; readonly most: number }
  | { readonly type: 'choice'; readonly choices: readonly string[] }
  /** A part of the model by its name; null: all parts but the point's own. */
  | { readonly type: 'part' }
  /** Stands only where it is true. */
  | { readonly type: 'flag' }
  | { readonly type: 'truth' }
  | { readonly type: 'place' };

/** The forms of settings. Lengths in metres, angles in radians. */
export const setting = {
  length: { type: 'number', least: 1e-15, most: 1e15 },
  number: (least: number, most: number) => ({ type: 'number', least, most }) as const,
  choice: <const V extends readonly string[]>(...choices: V) =>
    ({ type: 'choice', choices }) as const,
  part: { type: 'part' },
  flag: { type: 'flag' },
  truth: { type: 'truth' },
  place: { type: 'place' },
} as const;

type Forms = Readonly<Record<string, SettingForm>>;
type ValueOf<F> = F extends { readonly type: 'number' }
  ? number
  : F extends { readonly type: 'choice'; readonly choices: readonly (infer V)[] }
    ? V
    : F extends { readonly type: 'part' }
      ? string | null
      : F extends { readonly type: 'place' }
        ? Vec3
        : boolean;
type FlagsIn<F> = { [N in keyof F]: F[N] extends { readonly type: 'flag' } ? N : never }[keyof F];
/** The settings of a map of one kind, fully decided. */
export type SettingsOf<F extends Forms, D extends boolean> = {
  readonly [N in Exclude<keyof F, FlagsIn<F>>]: ValueOf<F[N]>;
} & { readonly [N in FlagsIn<F>]?: true } & (D extends true
    ? {
        /** Tells apart by which normals it is measured, if not the surface's. */
        readonly detail?: string;
      }
    : unknown);

/** What a node asks for: its fixed inputs and options, by the names the kind gives them. */
export interface GivenSettings {
  /** A length in metres, from a share of the model's size or from metres; absurd ones limited. */
  length(name: string): number;
  /** A number from `least` to `most`; `fallback` where none is given. */
  number(name: string, fallback: number, least: number, most: number): number;
  choice(name: string): string | undefined;
}

/** What is measured, and where. */
export interface Measuring {
  readonly mesh: SurfaceMesh;
  readonly kernel: MeshKernel;
  readonly points: SamplePoints;
  /** Values are wanted for `count` points from `first` on. */
  readonly first: number;
  readonly count: number;
  readonly rays: number;
  /** Whether this is a first look, to be followed by the finished map. */
  readonly isQuick: boolean;
  /** Normals in place of the surface's own, where the settings name some. */
  readonly normals: DetailNormals | null;
}

/** A map as `bright-loom analyse` writes it, and as the page of a model shows it. */
export interface MapView {
  /** As a node measures it that nobody has touched. */
  readonly given: Readonly<Record<string, number>>;
  readonly choices: Readonly<Record<string, string>>;
  /** How a value is stored, limited to 0 to 1; `size` is the model's, in metres. */
  readonly store: (value: number, size: number) => number;
  /** What is stored, in a few words. */
  readonly stores: string;
  /** Its picture on the page of a model: the values that are black and white. */
  readonly look?: {
    readonly title: string;
    readonly description: string;
    readonly black: number;
    readonly white: number;
  };
}

interface MapText<F extends Forms, D extends boolean> {
  /** What it is called while it is measured. */
  readonly title: string;
  readonly settings: F;
  /** Whether normals of a network may take the place of the surface's own. */
  readonly takesDetail: D;
  /** Measured in no time and anew with every change, so that no finished map is stored. */
  readonly isTransient?: true;
  /** Ways to look at it, by their names. */
  readonly views: Readonly<Record<string, MapView>>;
  resolve(given: GivenSettings): SettingsOf<F, D>;
  /** Settings that leave nothing to be measured: no map is asked for, and nodes read 0. */
  isNothing?(settings: SettingsOf<F, D>): boolean;
  /** One number for each point asked for; the array is the caller's. */
  measure(settings: SettingsOf<F, D>, work: Measuring): Float32Array<ArrayBuffer>;
}
/** Everything there is to know of a kind of mesh map. */
export interface MapDefinition<
  F extends Forms = Forms,
  D extends boolean = boolean,
> extends MapText<F, D> {
  readonly settings: F;
}

/** A kind of mesh map: one file `<kind>.map.ts` in this folder is all there is to it. */
export const defineMap = <const F extends Forms, const D extends boolean>(
  text: MapText<F, D>,
): MapDefinition<F, D> => text;
