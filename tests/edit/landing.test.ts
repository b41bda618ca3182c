/** Where a strand lands that is let go over a node as a whole: every node, every kind. */
import { landingInput } from '@/core/edit/landing';
import type { NetworkDocument } from '@/core/graph/document';
import { NODES } from '@/core/nodes/registry.generated';
import type { PortKind } from '@/core/nodes/define';
import { documentOf, node } from '../support/networks';

/** Of each node that takes strands: where a number, a colour, a vector and a surface go. */
const LANDS: Readonly<Record<string, string>> = {
  'colour.blend': 'where under under -',
  'colour.correct': 'amount colour colour -',
  'colour.encode': 'value value value -',
  'colour.full-value': 'colour colour colour -',
  'colour.hue-saturation-value': 'colour colour colour -',
  'colour.pack': 'red red red -',
  'colour.replace': 'colour colour colour -',
  'colour.route': 'colour colour colour -',
  'colour.split': 'colour colour colour -',
  'colour.temperature': 'kelvin kelvin kelvin -',
  'colour.to-grey': 'colour colour colour -',
  'constants.colour': 'colour colour colour -',
  'constants.number': 'value value value -',
  'constants.vector': 'vector vector vector -',
  'coordinates.three-way-blend': 'first first weights -',
  'coordinates.three-way': 'blend at at -',
  'coordinates.transform': 'at at at -',
  'gradients.curve': 'value value value -',
  'gradients.gradient': 'length at at -',
  'gradients.palette': 'base base base -',
  'gradients.ramp': 'value value value -',
  'gradients.row-sampler': 'value value value -',
  'masks.break-edge': 'mask at at -',
  'masks.exclude': 'masks masks masks -',
  'masks.height-blend': 'under under under -',
  'masks.intersect': 'masks masks masks -',
  'masks.minus': 'mask mask mask -',
  'masks.nearest-of': 'distances distances distances -',
  'masks.union': 'masks masks masks -',
  'math.combine': 'x x x -',
  'math.formula': 'a a a -',
  'math.is-wired': 'first first first -',
  'math.math': 'a a a -',
  'math.measure': 'a a a -',
  'math.mix': 'amount a a -',
  'math.split': 'vector vector vector -',
  'math.switch': 'which first first -',
  'math.vector': 'a a a -',
  'model.attribute': 'fallback fallback fallback -',
  'model.beacon': 'inner place place -',
  'model.between': 'a a a -',
  'model.curvature': 'gain detail detail -',
  'model.facing-direction': 'centre direction direction -',
  'model.light-response': 'normal normal normal -',
  'model.normal': 'turn turn turn -',
  'model.occlusion': 'open open detail -',
  'model.part': 'seed seed seed -',
  'model.proximity': 'near near near -',
  'model.random': 'number number number -',
  'model.slope': 'up up up -',
  'model.view-angle': 'exponent normal normal -',
  'optics.fresnel': 'index index index -',
  'optics.gloss': 'value value value -',
  'optics.metal': 'index index index -',
  'optics.reflectance': 'index index index -',
  'patterns.blocks': 'scale at at -',
  'patterns.cell-noise': 'scale at at -',
  'patterns.checks': 'scale first at -',
  'patterns.distort': 'scale at at -',
  'patterns.fractal-noise': 'scale at at -',
  'patterns.hatch': 'tone at at -',
  'patterns.hexagons': 'scale at at -',
  'patterns.image': 'repeat at at -',
  'patterns.noise': 'scale at at -',
  'patterns.ripples': 'scale at at -',
  'patterns.scratches': 'scale at at -',
  'patterns.speckle': 'scale at at -',
  'patterns.stripes': 'scale at at -',
  'patterns.three-way-image': 'scale at at -',
  'patterns.untiled-image': 'repeat at at -',
  'patterns.weave': 'scale at at -',
  'ranges.band': 'value value value -',
  'ranges.clamp': 'value value value -',
  'ranges.compare': 'a a a -',
  'ranges.contrast': 'value value value -',
  'ranges.levels': 'value value value -',
  'ranges.lift': 'value value value -',
  'ranges.posterise': 'value value value -',
  'ranges.remap': 'value value value -',
  'ranges.slide': 'value value value -',
  'ranges.smoothstep': 'value value value -',
  'ranges.squeeze': 'value value value -',
  'ranges.stretch-to-range': 'value value value -',
  'ranges.threshold': 'value value value -',
  'surface.blend-normals': 'amount base base -',
  'surface.bump': 'height normal normal -',
  'surface.flat': 'colour colour colour -',
  'surface.layer': 'where where where under',
  'surface.normal-map': 'map map normal -',
  'surface.surface': 'baseColour baseColour normal -',
};
const KINDS = ['scalar', 'colour', 'vector', 'surface'] as const;
const lands = (document: NetworkDocument, kind: PortKind, quantity?: 'gloss' | 'opacity') => {
  const target = document.network.nodes.find(({ id }) => id === 'n');
  if (!target) throw new Error('no node n');
  return landingInput(document, document.network, target, { kind, quantity });
};

describe('where a strand lands', () => {
  it.each(NODES.map(({ id }) => [id]))('on %s', (type) => {
    const document = documentOf([node('n', type)]);
    const found = KINDS.map((kind) => lands(document, kind) ?? '-').join(' ');
    expect(found).toBe(LANDS[type] ?? '- - - -');
  });
  it('takes the free side where one is wired', () => {
    const colours = documentOf(
      [node('c', 'constants.colour'), node('n', 'colour.blend')],
      ['c:colour > n:under'],
    );
    expect(lands(colours, 'colour')).toBe('over');
    const numbers = documentOf(
      [node('c', 'constants.number'), node('n', 'math.math')],
      ['c:value > n:a'],
    );
    expect(lands(numbers, 'scalar')).toBe('b');
    const layers = documentOf(
      [node('s', 'surface.surface'), node('n', 'surface.layer')],
      ['s:surface > n:under'],
    );
    expect(lands(layers, 'surface')).toBe('over');
  });
  it('goes where the same is meant', () => {
    expect(lands(documentOf([node('n', 'surface.surface')]), 'scalar', 'opacity')).toBe('opacity');
  });
  it('counts only inputs that count', () => {
    const turned = node('n', 'math.vector', {}, { operation: 'rotate' });
    expect(lands(documentOf([turned]), 'scalar')).not.toBe('a');
    expect(lands(documentOf([node('n', 'math.vector')]), 'scalar')).toBe('a');
  });
});
