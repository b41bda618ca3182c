import { defineNode, input, output } from '../define';
import { map3, normalise } from '../lanes';

const share = { hard: [0, 1] as const };
export const surface = defineNode({
  id: 'surface.surface', version: 1, title: 'Surface', family: 'surface',
  synonyms: ['material', 'shader', 'paint', 'metal', 'glass', 'varnish', 'velvet', 'cloth', 'result', 'pbr'],
  help: 'What the model is made of: paint, metal, glass, what lies over them as a coat, and the bloom of cloth. A refractive index '
    + 'of 1 reflects nothing; one below 1 counts as 1.',
  formula: 'glTF 2.0, appendix B, with KHR_materials_ior, _specular, _transmission, _dispersion, _clearcoat and _sheen; F0 = ((n − 1)/(n + 1))²',
  inputs: {
    baseColour: input.colour({ title: 'Base colour', help: 'Colour of the paint, or of the metal’s reflection.', default: [0.5, 0.5, 0.5] }),
    metalness: input.scalar({ title: 'Metalness', help: 'Bare metal or not.', default: 0, ...share, low: 'paint, stone, wood', high: 'bare metal' }),
    roughness: input.scalar({ quantity: 'roughness', title: 'Roughness', help: 'How blurred reflections are.', default: 0.5, ...share, low: 'mirror', high: 'matt' }),
    refractiveIndex: input.scalar({ quantity: 'refractive index', title: 'Refractive index', help: 'How strongly light bends on entering; decides how much is reflected head-on.', default: 1.5, soft: [1, 2.5], hard: [1, 40], low: 'air, no reflection', high: 'diamond', section: 'Reflection' }),
    specular: input.scalar({ title: 'Reflection', help: 'Scales the reflection of what is not metal.', default: 1, ...share, low: 'none', high: 'as the index says', section: 'Reflection' }),
    specularColour: input.colour({ title: 'Reflection colour', help: 'Tints that reflection, head-on.', default: [1, 1, 1], section: 'Reflection' }),
    transmission: input.scalar({ title: 'Transmission', help: 'Share of the light that goes through instead of being scattered.', default: 0, ...share, low: 'opaque paint', high: 'clear glass', section: 'Transmission' }),
    transmissionColour: input.colour({ title: 'Transmission colour', help: 'Tints what shines through.', default: [1, 1, 1], section: 'Transmission' }),
    dispersion: input.scalar({ title: 'Dispersion', help: 'How far colours are spread: 20 divided by the Abbe number.', default: 0, soft: [0, 1], hard: [0, 20], low: 'none', high: 'prism', section: 'Transmission' }),
    emission: input.colour({ title: 'Emission', help: 'Colour of its own light.', default: [1, 1, 1], section: 'Emission' }),
    emissionStrength: input.scalar({ title: 'Emission strength', help: 'How strongly it glows.', default: 0, soft: [0, 10], hard: [0, 100000], low: 'dark', high: 'glowing', section: 'Emission' }),
    opacity: input.scalar({ quantity: 'opacity', title: 'Opacity', help: 'Share that covers what lies behind. Always opacity, never transparency.', default: 1, ...share, low: 'see-through', high: 'opaque', section: 'Opacity' }),
    coat: input.scalar({ title: 'Coat', help: 'A clear layer of index 1.5 over everything, as varnish.', default: 0, ...share, low: 'bare', high: 'varnished', section: 'Coat' }),
    coatRoughness: input.scalar({ quantity: 'roughness', title: 'Coat roughness', help: 'How blurred the coat’s reflections are.', default: 0.1, ...share, low: 'mirror', high: 'matt', section: 'Coat' }),
    sheen: input.scalar({ title: 'Sheen', help: 'The bright rim of cloth and dust.', default: 0, ...share, low: 'none', high: 'velvet', section: 'Sheen' }),
    sheenColour: input.colour({ title: 'Sheen colour', help: 'Colour of that rim.', default: [1, 1, 1], section: 'Sheen' }),
    sheenRoughness: input.scalar({ quantity: 'roughness', title: 'Sheen roughness', help: 'How wide the rim is.', default: 0.3, ...share, low: 'thin line', high: 'wide', section: 'Sheen' }),
    normal: input.vector({ title: 'Normal', help: 'Direction the light sees; wire a bump here.', default: 'normal', soft: [-1, 1], section: 'Relief' }),
    height: input.scalar({ title: 'Height', help: 'Goes into height maps; to see it as relief, wire it through a bump.', default: 0, low: 'deep', high: 'high', section: 'Relief' }),
  },
  outputs: { surface: output.surface('Surface', 'The finished surface.') },
  starts: [
    { title: 'Satin paint', values: { baseColour: [0.32, 0.08, 0.05], metalness: 0, roughness: 0.4, coat: 0, sheen: 0, transmission: 0 } },
    { title: 'Bare steel', values: { baseColour: [0.53, 0.51, 0.49], metalness: 1, roughness: 0.35, coat: 0, sheen: 0, transmission: 0 } },
    { title: 'Varnished wood', values: { baseColour: [0.2, 0.09, 0.035], metalness: 0, roughness: 0.6, coat: 1, coatRoughness: 0.08, sheen: 0, transmission: 0 } },
    { title: 'Clear glass', values: { baseColour: [1, 1, 1], metalness: 0, roughness: 0.02, refractiveIndex: 1.52, transmission: 1, transmissionColour: [0.95, 1, 0.97], dispersion: 0.34, coat: 0, sheen: 0 } },
    { title: 'Wet canvas', values: { baseColour: [0.16, 0.14, 0.11], metalness: 0, roughness: 0.85, coat: 0.5, coatRoughness: 0.3, sheen: 0, transmission: 0 } },
    { title: 'Wool felt', values: { baseColour: [0.09, 0.11, 0.16], metalness: 0, roughness: 0.95, sheen: 0.8, sheenColour: [0.5, 0.55, 0.65], sheenRoughness: 0.55, coat: 0, transmission: 0 } },
    { title: 'Glowing lamp', values: { baseColour: [0.9, 0.85, 0.75], roughness: 0.5, emission: [1, 0.72, 0.36], emissionStrength: 4, coat: 0, sheen: 0, transmission: 0 } },
  ],
  lower: (b, given, _options, model) => {
    const atLeast0 = (lane: typeof given.metalness) => b.max(lane, b.f(0));
    return {
      surface: {
        baseColour: map3(given.baseColour, atLeast0),
        metalness: b.saturate(given.metalness), roughness: b.saturate(given.roughness),
        emission: map3(given.emission, (lane) => atLeast0(b.mul(lane, given.emissionStrength))),
        opacity: b.saturate(given.opacity), normal: normalise(b, given.normal, model.normal),
        refractiveIndex: b.max(given.refractiveIndex, b.f(1)), specular: b.saturate(given.specular), specularColour: map3(given.specularColour, atLeast0),
        transmission: b.saturate(given.transmission), transmissionColour: map3(given.transmissionColour, atLeast0), dispersion: atLeast0(given.dispersion),
        coat: b.saturate(given.coat), coatRoughness: b.saturate(given.coatRoughness),
        sheen: map3(given.sheenColour, (lane) => b.mul(atLeast0(lane), b.saturate(given.sheen))), sheenRoughness: b.saturate(given.sheenRoughness),
        unlit: b.f(0), height: given.height,
      },
    };
  },
});
