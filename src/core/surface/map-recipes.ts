import { SURFACE_LANES } from '../nodes/surface-parameters';
import type { SurfaceParameter } from '../nodes/surface-parameters';
import { encodeSrgb } from './colour-science';

/**
 * One channel of a picture: from which lanes, how it is stored (0–1; `glow` is what emission is
 * measured in), and what stands where there is no surface.
 */
export interface Channel {
  readonly reads: readonly number[];
  readonly value: (lanes: readonly Float32Array[], k: number, glow: number) => number;
  readonly empty: number;
}
/**
 * A picture a bake can write. It is written when one of the parameters `when` differs from what
 * changes nothing; always where it names none.
 */
export interface MapRecipe {
  readonly channels: readonly Channel[];
  readonly when: readonly SurfaceParameter[];
  /**
   * How its numbers are to be read: colours encoded for the eye (an alpha beside them is not), or
   * quantities as they are.
   */
  readonly meaning: 'sRGB' | 'linear';
}

const limited = (x: number): number => (Number.isFinite(x) ? Math.min(1, Math.max(0, x)) : 0);
const encoded = (x: number): number => encodeSrgb(limited(x));
const halved = (x: number): number => limited(x * 0.5 + 0.5);

function lane(name: string, store: (x: number) => number = limited, empty = 0): Channel {
  const index = SURFACE_LANES.indexOf(name);
  return {
    reads: [index],
    value: (lanes, k) => store((lanes[index] as Float32Array)[k] as number),
    empty,
  };
}
const constant = (value: number): Channel => ({ reads: [], value: () => value, empty: value });
const colour = (name: string, empty = 0): readonly Channel[] =>
  ['r', 'g', 'b'].map((axis) => lane(`${name}.${axis}`, encoded, empty));

/**
 * glTF tints what shines through by the base colour, so the colour of what shines through takes its
 * place there, by the share that does: exact where all or nothing does.
 */
function tinted(axis: string): Channel {
  const [base, through, share] = [
    `baseColour.${axis}`,
    `transmissionColour.${axis}`,
    'transmission',
  ].map((name) => SURFACE_LANES.indexOf(name)) as [number, number, number];
  return {
    reads: [base, through, share],
    empty: 0,
    value: (lanes, k) => {
      const b = (lanes[base] as Float32Array)[k] as number;
      return encoded(
        b +
          (((lanes[through] as Float32Array)[k] as number) - b) *
            limited((lanes[share] as Float32Array)[k] as number),
      );
    },
  };
}

/** Emission as a share of the brightest, for KHR_materials_emissive_strength. */
function glowing(axis: string): Channel {
  const index = SURFACE_LANES.indexOf(`emission.${axis}`);
  return {
    reads: [index],
    value: (lanes, k, glow) => encoded(((lanes[index] as Float32Array)[k] as number) / glow),
    empty: 0,
  };
}

/**
 * The pictures written for whoever puts them to use. Base colours, emission, sheen and tints in
 * sRGB, the rest linear.
 */
export const MAPS = {
  'base-colour': { meaning: 'sRGB', when: [], channels: colour('baseColour') },
  metalness: { meaning: 'linear', when: [], channels: [lane('metalness')] },
  roughness: { meaning: 'linear', when: [], channels: [lane('roughness', limited, 0.5)] },
  /** In tangent space, +Y up. */
  normal: {
    meaning: 'linear',
    when: [],
    channels: [
      lane('normal.x', halved, 0.5),
      lane('normal.y', halved, 0.5),
      lane('normal.z', halved, 1),
    ],
  },
  emission: { meaning: 'sRGB', when: [], channels: colour('emission') },
  opacity: { meaning: 'linear', when: [], channels: [lane('opacity', limited, 1)] },
  specular: { meaning: 'linear', when: ['specular'], channels: [lane('specular', limited, 1)] },
  'specular-colour': {
    meaning: 'sRGB',
    when: ['specularColour'],
    channels: colour('specularColour', 1),
  },
  transmission: { meaning: 'linear', when: ['transmission'], channels: [lane('transmission')] },
  'transmission-colour': {
    meaning: 'sRGB',
    when: ['transmissionColour'],
    channels: colour('transmissionColour', 1),
  },
  coat: { meaning: 'linear', when: ['coat'], channels: [lane('coat')] },
  'coat-roughness': { meaning: 'linear', when: ['coat'], channels: [lane('coatRoughness')] },
  'sheen-colour': { meaning: 'sRGB', when: ['sheen'], channels: colour('sheen') },
  'sheen-roughness': { meaning: 'linear', when: ['sheen'], channels: [lane('sheenRoughness')] },
  height: { meaning: 'linear', when: ['height'], channels: [lane('height')] },
} as const satisfies Record<string, MapRecipe>;
export type MapName = keyof typeof MAPS;

/**
 * The pictures in the baked model, packed as glTF 2.0 and its extensions for specular,
 * transmission, clearcoat and sheen want them.
 */
export const MODEL_TEXTURES = {
  'base colour': {
    meaning: 'sRGB',
    when: [],
    channels: [...['r', 'g', 'b'].map(tinted), lane('opacity', limited, 1)],
  },
  'roughness and metalness': {
    meaning: 'linear',
    when: [],
    channels: [constant(1), lane('roughness', limited, 0.5), lane('metalness')],
  },
  normal: MAPS.normal,
  emission: { meaning: 'sRGB', when: ['emission'], channels: ['r', 'g', 'b'].map(glowing) },
  specular: {
    meaning: 'sRGB',
    when: ['specular', 'specularColour'],
    channels: [...colour('specularColour', 1), lane('specular', limited, 1)],
  },
  transmission: {
    meaning: 'linear',
    when: ['transmission'],
    channels: [lane('transmission'), constant(0), constant(0)],
  },
  coat: {
    meaning: 'linear',
    when: ['coat'],
    channels: [lane('coat'), lane('coatRoughness'), constant(0)],
  },
  sheen: {
    meaning: 'sRGB',
    when: ['sheen'],
    channels: [...colour('sheen'), lane('sheenRoughness')],
  },
} as const satisfies Record<string, MapRecipe>;
export type ModelTexture = keyof typeof MODEL_TEXTURES;
