import { defineNode, input, output } from '../define';
import { map3, normalise } from '../lanes';

export const surface = defineNode({
  id: 'surface.surface', version: 1, title: 'Surface', family: 'surface',
  synonyms: ['material', 'shader', 'paint', 'metal', 'result', 'pbr'],
  help: 'What the model is made of: parameters as in glTF’s metallic-roughness material.',
  formula: 'glTF 2.0, appendix B (metallic-roughness)',
  inputs: {
    baseColour: input.colour({ title: 'Base colour', help: 'Colour of the paint, or of the metal’s reflection.', default: [0.5, 0.5, 0.5] }),
    metalness: input.scalar({ title: 'Metalness', help: 'Bare metal or not.', default: 0, hard: [0, 1], low: 'paint, stone, wood', high: 'bare metal' }),
    roughness: input.scalar({ title: 'Roughness', help: 'How blurred reflections are.', default: 0.5, hard: [0, 1], low: 'mirror', high: 'matt' }),
    emission: input.colour({ title: 'Emission', help: 'Colour of its own light.', default: [1, 1, 1] }),
    emissionStrength: input.scalar({ title: 'Emission strength', help: 'How strongly it glows.', default: 0, soft: [0, 10], hard: [0, 100000], low: 'dark', high: 'glowing' }),
    opacity: input.scalar({ title: 'Opacity', help: 'Share that covers what lies behind.', default: 1, hard: [0, 1], low: 'see-through', high: 'opaque' }),
    normal: input.vector({ title: 'Normal', help: 'Direction the light sees; wire a bump here.', default: 'normal', soft: [-1, 1] }),
  },
  outputs: { surface: output.surface('Surface', 'The finished surface.') },
  lower: (b, { baseColour, metalness, roughness, emission, emissionStrength, opacity, normal }, _options, model) => ({
    surface: {
      baseColour: map3(baseColour, (lane) => b.max(lane, b.f(0))),
      metalness: b.saturate(metalness), roughness: b.saturate(roughness),
      emission: map3(emission, (lane) => b.max(b.mul(lane, emissionStrength), b.f(0))),
      opacity: b.saturate(opacity), normal: normalise(b, normal, model.normal),
    },
  }),
});
