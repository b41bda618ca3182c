import type { PortId } from '../base/ids';
import { curveValue, documentShape, inputValue, rampValue } from '../graph/document-shape';
import { LIMITS } from '../graph/limits';
import { id } from '../graph/scene-shape';
import { list, mapOf, record, triple } from '../graph/shape';
import type { TypeOf } from '../graph/shape';

/** Most colours of a palette. */
export const PALETTE_COLOURS = 64;

/** Colours that belong together, in their order; linear Rec. 709, each from 0, may pass 1. */
export const paletteValue = record({
  colours: list(triple, { least: 1, most: PALETTE_COLOURS }),
});
/** A palette. */
export type PaletteValue = TypeOf<typeof paletteValue>;

/** The values of the dials of an entry's groups; dials it does not name are home. */
export const variantValue = record({
  entryId: id(),
  values: mapOf(id<PortId>(), inputValue, LIMITS.dials),
});
/** A variant of a group of the library. */
export type VariantValue = TypeOf<typeof variantValue>;

/** A finished network, and the model it was made on. */
export const starterValue = record({ document: documentShape, modelId: id() });
/** A starter of the studio. */
export type StarterValue = TypeOf<typeof starterValue>;

/** What else than groups is kept on racks: one entry for each kind. */
export const PRESET_KINDS = {
  ramp: { title: 'Ramp', plural: 'Ramps', shape: rampValue },
  palette: { title: 'Palette', plural: 'Palettes', shape: paletteValue },
  curve: { title: 'Curve', plural: 'Curves', shape: curveValue },
  variant: { title: 'Variant', plural: 'Variants', shape: variantValue },
  starter: { title: 'Starter', plural: 'Starters', shape: starterValue },
} as const;
/** The name of a kind of preset. */
export type PresetKind = keyof typeof PRESET_KINDS;
/** The value of a preset of a kind. */
export type PresetValue<K extends PresetKind = PresetKind> = TypeOf<
  (typeof PRESET_KINDS)[K]['shape']
>;

/** All kinds, in the order they are shown. */
export const PRESET_NAMES = Object.keys(PRESET_KINDS) as readonly PresetKind[];
