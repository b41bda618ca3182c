import { defineNode, input, output } from '../define';
import { normalise, zip3 } from '../lanes';

export const layer = defineNode({
  id: 'surface.layer', version: 1, title: 'Layer', family: 'surface',
  synonyms: ['stack', 'coat', 'over', 'mix materials', 'cover'],
  help: 'Lays one surface over another where a mask says so.',
  formula: 'each parameter: under + (over − under)·limit(where·amount); normals blended, then made unit',
  inputs: {
    under: input.surface({ title: 'Under', help: 'The surface below.' }),
    over: input.surface({ title: 'Over', help: 'The surface above.' }),
    where: input.scalar({ title: 'Where', help: 'Mask of the upper surface.', default: 0.5, low: 'only under', high: 'fully over' }),
    amount: input.scalar({ title: 'Amount', help: 'Overall strength.', default: 1, low: 'nothing', high: 'full' }),
  },
  outputs: {
    surface: output.surface('Surface', 'The two together.'),
    coverage: output.scalar('Coverage', 'Where the upper surface lies.', { low: 'under remains', high: 'covered' }),
  },
  watches: [':coverage'],
  advise: (reads) => {
    const coverage = reads.result('coverage');
    if (coverage && coverage.minimum >= 1) return [{ code: 'layer.covered', mark: 'covers', message: 'Under this layer 0 % of the lower surface remains visible. Wire a mask into Where, or lower the amount.' }];
    if (coverage && coverage.maximum <= 0) return [{ code: 'layer.unseen', mark: 'unseen', message: 'The upper surface is nowhere to be seen: its mask and amount are 0 everywhere.', ...(reads.number('amount') === 0 ? { cure: { title: 'Set the amount to 1', input: 'amount', value: 1 } } : {}) }];
    return [];
  },
  lower: (b, { under, over, where, amount }) => {
    const coverage = b.saturate(b.mul(where, amount));
    const mixed = (x: typeof coverage, y: typeof coverage) => b.mix(x, y, coverage);
    return {
      surface: {
        baseColour: zip3(under.baseColour, over.baseColour, mixed), metalness: mixed(under.metalness, over.metalness),
        roughness: mixed(under.roughness, over.roughness), emission: zip3(under.emission, over.emission, mixed),
        opacity: mixed(under.opacity, over.opacity), normal: normalise(b, zip3(under.normal, over.normal, mixed), under.normal),
      },
      coverage,
    };
  },
});
