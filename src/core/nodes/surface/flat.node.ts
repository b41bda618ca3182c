import { defineNode, input, output } from '../define';
import { map3 } from '../lanes';
import { plainSurface } from '../surface-lanes';

export const flat = defineNode({
  id: 'surface.flat',
  version: 1,
  title: 'Flat',
  family: 'surface',
  synonyms: ['unlit', 'shadeless', 'constant', 'sign', 'label', 'backdrop'],
  help:
    'A surface that no light changes: it shows its colour as it is, without shading and ' +
    'without tone mapping.',
  formula: 'light leaving = colour; glTF KHR_materials_unlit',
  inputs: {
    colour: input.colour({ title: 'Colour', help: 'What is shown.', default: [0.5, 0.5, 0.5] }),
    opacity: input.scalar({
      quantity: 'opacity',
      title: 'Opacity',
      help: 'Share that covers what lies behind.',
      default: 1,
      hard: [0, 1],
      low: 'see-through',
      high: 'opaque',
    }),
  },
  outputs: { surface: output.surface('Surface', 'The unlit surface.') },
  lower: (b, { colour, opacity }, _options, model) => ({
    surface: {
      ...plainSurface(b, model.normal),
      baseColour: map3(colour, (lane) => b.max(lane, b.f(0))),
      opacity: b.saturate(opacity),
      unlit: b.f(1),
    },
  }),
});
