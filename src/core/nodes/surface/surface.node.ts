import { percent } from '../advice';
import type { Advice, AdviceReads } from '../advice';
import { defineNode, output } from '../define';
import { lowerSurface } from '../surface-lanes';
import { SURFACE_INPUTS } from '../surface-parameters';

/** Of light that passes less than this is seen as nothing. */
const NEARLY_BLACK = 0.05;

/** A tint of what shines through that lets next to nothing through. */
function darkGlass(reads: AdviceReads): readonly Advice[] {
  const tint = reads.triple('transmissionColour');
  const most = tint && reads.isFixed('transmissionColour') ? Math.max(...tint) : Infinity;
  const passes = !reads.isFixed('transmission') || (reads.number('transmission') ?? 0) > 0;
  if (!passes || most >= NEARLY_BLACK) return [];
  return [
    {
      code: 'transmission.dark',
      mark: 'dark',
      message:
        `The transmission colour lets at most ${percent(Math.max(0, most))} of the ` +
        'light through: what shines through is nearly black. Take a lighter one.',
    },
  ];
}

export const surface = defineNode({
  id: 'surface.surface',
  version: 1,
  title: 'Surface',
  family: 'surface',
  synonyms: [
    'material',
    'shader',
    'paint',
    'metal',
    'glass',
    'varnish',
    'velvet',
    'cloth',
    'result',
    'pbr',
  ],
  help:
    'What the model is made of: paint, metal, glass, what lies over them as a coat, and ' +
    'the bloom of cloth. A refractive index ' +
    'of 1 reflects nothing; one below 1 counts as 1.',
  formula:
    'glTF 2.0, appendix B, with KHR_materials_ior, _specular, _transmission, _dispersion, ' +
    '_clearcoat and _sheen; F0 = ((n − 1)/(n + 1))²',
  inputs: SURFACE_INPUTS,
  outputs: { surface: output.surface('Surface', 'The finished surface.') },
  starts: [
    {
      title: 'Satin paint',
      values: {
        baseColour: [0.32, 0.08, 0.05],
        metalness: 0,
        roughness: 0.4,
        coat: 0,
        sheen: 0,
        transmission: 0,
      },
    },
    {
      title: 'Bare steel',
      values: {
        baseColour: [0.53, 0.51, 0.49],
        metalness: 1,
        roughness: 0.35,
        coat: 0,
        sheen: 0,
        transmission: 0,
      },
    },
    {
      title: 'Varnished wood',
      values: {
        baseColour: [0.2, 0.09, 0.035],
        metalness: 0,
        roughness: 0.6,
        coat: 1,
        coatRoughness: 0.08,
        sheen: 0,
        transmission: 0,
      },
    },
    {
      title: 'Clear glass',
      values: {
        baseColour: [1, 1, 1],
        metalness: 0,
        roughness: 0.02,
        refractiveIndex: 1.52,
        transmission: 1,
        transmissionColour: [0.95, 1, 0.97],
        dispersion: 0.34,
        coat: 0,
        sheen: 0,
      },
    },
    {
      title: 'Wet canvas',
      values: {
        baseColour: [0.16, 0.14, 0.11],
        metalness: 0,
        roughness: 0.85,
        coat: 0.5,
        coatRoughness: 0.3,
        sheen: 0,
        transmission: 0,
      },
    },
    {
      title: 'Wool felt',
      values: {
        baseColour: [0.09, 0.11, 0.16],
        metalness: 0,
        roughness: 0.95,
        sheen: 0.8,
        sheenColour: [0.5, 0.55, 0.65],
        sheenRoughness: 0.55,
        coat: 0,
        transmission: 0,
      },
    },
    {
      title: 'Glowing lamp',
      values: {
        baseColour: [0.9, 0.85, 0.75],
        roughness: 0.5,
        emission: [1, 0.72, 0.36],
        emissionStrength: 4,
        coat: 0,
        sheen: 0,
        transmission: 0,
      },
    },
  ],
  advise: darkGlass,
  lower: (b, given, _options, model) => ({ surface: lowerSurface(b, given, model) }),
});
