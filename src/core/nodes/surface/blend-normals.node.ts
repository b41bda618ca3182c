import { defineNode, input, option, output } from '../define';
import { map3, normalise, zip3 } from '../lanes';
import { addRelief } from '../surface-lanes';

export const blendNormals = defineNode({
  id: 'surface.blend-normals',
  version: 1,
  title: 'Blend normals',
  family: 'surface',
  synonyms: ['combine relief', 'detail normal', 'mix normals'],
  help: 'Puts the relief of one normal on another, so that both remain to be seen.',
  formula:
    'add slopes: N + (b/(b·N) − N) + a·(d/(d·N) − N), made unit; mix: b + (d − ' +
    'b)·a, made ' +
    'unit',
  inputs: {
    base: input.vector({
      title: 'Base',
      help: 'The larger relief.',
      default: 'normal',
      soft: [-1, 1],
    }),
    detail: input.vector({
      title: 'Detail',
      help: 'The finer relief.',
      default: 'normal',
      soft: [-1, 1],
    }),
    amount: input.scalar({
      title: 'Amount',
      help: 'How much of the detail is taken.',
      default: 1,
      soft: [0, 2],
      hard: [-100, 100],
      low: 'base only',
      high: 'strong detail',
    }),
  },
  sides: () => ['base', 'detail'],
  outputs: { normal: output.vector('Normal', 'Both reliefs together.') },
  options: {
    method: option('Method', 'How the two come together.', {
      slopes: ['Add slopes', 'As if the heights had been added; both keep their full relief.'],
      mix: ['Mix', 'From one to the other; each flattens the other.'],
    }),
  },
  tolerance: {
    value: 1e-3,
    reason: 'Slopes against grazing directions are quotients of small numbers.',
  },
  lower: (b, { base, detail, amount }, { method }, model) => {
    const [from, to] = [normalise(b, base, model.normal), normalise(b, detail, model.normal)];
    if (method === 'mix')
      return {
        normal: normalise(
          b,
          zip3(from, to, (x, y) => b.mix(x, y, amount)),
          from,
        ),
      };
    const leaned = normalise(
      b,
      map3(to, (lane, k) => b.mix(model.normal[k as 0], lane, amount)),
      model.normal,
    );
    return { normal: addRelief(b, from, leaned, model.normal) };
  },
});
