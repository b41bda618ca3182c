import type { Encoding, ParameterDefinition } from '../nodes/parameters/define';
import type { SurfaceParameter } from '../nodes/parameters/lanes';
import { SURFACE_PARAMETERS } from '../nodes/parameters/registry.generated';
import { SURFACE_ENTRIES, laneIndices } from '../nodes/surface-parameters';
import { encodeSrgb } from './colour-science';

/** The brightest value of a parameter over the surface, at least 1. */
export type Peaks = (parameter: SurfaceParameter) => number;
/**
 * One channel of a picture: from which lanes, how it is stored (0–1), and what stands where there
 * is no surface.
 */
export interface Channel {
  readonly reads: readonly number[];
  readonly value: (lanes: readonly Float32Array[], k: number, peaks: Peaks) => number;
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
const ENCODE: Readonly<Record<Encoding, (x: number) => number>> = {
  share: limited,
  colour: (x) => encodeSrgb(limited(x)),
  direction: (x) => limited(x * 0.5 + 0.5),
};
const meaningOf = (encoding: Encoding): MapRecipe['meaning'] =>
  encoding === 'colour' ? 'sRGB' : 'linear';

/** The channels of a parameter, as its own map stores them. */
const ownChannels = (name: SurfaceParameter): readonly Channel[] => {
  const { encoding, empty } = SURFACE_PARAMETERS[name];
  return laneIndices(name).map((index, k) => ({
    reads: [index],
    value: (lanes, at) => ENCODE[encoding](lanes[index]?.[at] ?? 0),
    empty: empty[k] ?? 0,
  }));
};

/** The channels of a parameter, as the textures of a model store them. */
function modelChannels(
  name: SurfaceParameter,
  { encoding, model }: ParameterDefinition,
): readonly Channel[] {
  const own = ownChannels(name);
  const encode = ENCODE[encoding];
  if (model?.isRelative)
    return own.map((channel) => ({
      ...channel,
      value: (lanes, at, peaks) => encode((lanes[channel.reads[0] ?? 0]?.[at] ?? 0) / peaks(name)),
    }));
  if (!model?.replacedBy) return own;
  const { colour, share } = model.replacedBy;
  const others = laneIndices(colour),
    [shareIndex = 0] = laneIndices(share);
  return own.map((channel, k) => {
    const index = channel.reads[0] ?? 0,
      other = others[k] ?? 0;
    return {
      ...channel,
      reads: [index, other, shareIndex],
      value: (lanes, at) => {
        const base = lanes[index]?.[at] ?? 0;
        const towards = (lanes[other]?.[at] ?? 0) - base;
        return encode(base + towards * limited(lanes[shareIndex]?.[at] ?? 0));
      },
    };
  });
}

/** The pictures written for whoever puts them to use, by name: one for each parameter that has. */
export const MAPS: ReadonlyMap<string, MapRecipe> = new Map(
  SURFACE_ENTRIES.flatMap(([name, { map, encoding }]) =>
    map
      ? [
          [
            map.name,
            { channels: ownChannels(name), when: map.when, meaning: meaningOf(encoding) },
          ] as const,
        ]
      : [],
  ),
);

const UNUSED: Channel = { reads: [], value: () => 1, empty: 1 };
const LETTERS = 'rgba';
/** One texture out of the parameters that share it. */
function modelTexture(texture: string): MapRecipe {
  const members = SURFACE_ENTRIES.filter(([, { model }]) => model?.texture === texture);
  const channels: Channel[] = [];
  for (const [name, parameter] of members) {
    const first = LETTERS.indexOf(parameter.model?.channels[0] ?? 'r');
    modelChannels(name, parameter).forEach((channel, k) => (channels[first + k] = channel));
  }
  // Pictures have one channel, three or four.
  const width = channels.length === 2 ? 3 : channels.length;
  const whens = members.map(([, { model }]) => model?.when ?? []);
  return {
    channels: Array.from({ length: width }, (_, k) => channels[k] ?? UNUSED),
    when: whens.some((when) => when.length === 0) ? [] : [...new Set(whens.flat())],
    meaning: members.some(([, { encoding, lanes }]) => lanes === 3 && encoding === 'colour')
      ? 'sRGB'
      : 'linear',
  };
}

/** The pictures in the baked model, packed as glTF 2.0 and its extensions want them, by name. */
export const MODEL_TEXTURES: ReadonlyMap<string, MapRecipe> = new Map(
  [...new Set(SURFACE_ENTRIES.flatMap(([, { model }]) => (model ? [model.texture] : [])))].map(
    (texture) => [texture, modelTexture(texture)] as const,
  ),
);
