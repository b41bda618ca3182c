import { compileNetwork, mapDemands, uniformsFor } from '@/core/compile/compile';
import { MAP_VIEWS, resolveMapSettings } from '@/core/mesh/analysis';
import type { MapSettings } from '@/core/mesh/analysis';
import { NODES } from '@/core/nodes/registry.generated';
import { MAPS, MODEL_TEXTURES } from '@/core/surface/map-recipes';
import { ALL_TARGETS, PLAIN_TARGETS } from '@/core/surface/stage-layout';
import { TEST_SCALE, documentOf, node } from '../support/networks';

/** With numbers in single precision, as nodes hand them over. */
const inSingle = (settings: MapSettings): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(settings).map(([name, value]) => [
      name,
      typeof value === 'number' ? Math.fround(value) : value,
    ]),
  );

describe('a view of a mesh map', () => {
  it('is measured as a node measures it that nobody has touched', () => {
    const measured = NODES.flatMap((definition) => {
      const document = documentOf([node('n', definition.id)]);
      const compiled = compileNetwork(document, { surface: false, taps: 'all' });
      return mapDemands(compiled, uniformsFor(compiled, document, TEST_SCALE)).map(
        ({ kind, settings, choices }) =>
          inSingle(resolveMapSettings(kind, settings, choices, TEST_SCALE.size)),
      );
    });
    for (const { kind, given, choices } of MAP_VIEWS.values())
      expect(measured).toContainEqual(
        inSingle(resolveMapSettings(kind, given, choices, TEST_SCALE.size)),
      );
  });
});

describe('the parameters of a surface', () => {
  it('fill four targets where paint and metal are drawn, and eight in all', () => {
    expect([PLAIN_TARGETS, ALL_TARGETS]).toEqual([4, 8]);
  });
  it('are stored in pictures of one, three or four channels', () => {
    for (const { channels } of [...MAPS.values(), ...MODEL_TEXTURES.values()])
      expect([1, 3, 4]).toContain(channels.length);
  });
});
