import { searchNodes } from '@/core/compile/search-nodes';
import { TRADE_WORDS, isTradeNameOf, readyByTrade } from '@/core/compile/trade-words';
import { READY_GROUPS } from '@/core/edit/ready-groups';
import { NODES } from '@/core/nodes/registry.generated';

const first = (query: string): string => {
  const [hit] = searchNodes(query);
  if (!hit) return 'nothing';
  return [hit.definition.id, ...Object.values(hit.options)].join(' ');
};

describe('the search for nodes', () => {
  it('knows 300 words of the trade and more, each once, of what exists', () => {
    const words = TRADE_WORDS.map(({ word }) => word);
    expect(words.length).toBeGreaterThanOrEqual(300);
    expect(new Set(words).size).toBe(words.length);
    for (const { target } of TRADE_WORDS)
      if ('ready' in target) expect(READY_GROUPS.map(({ name }) => name)).toContain(target.ready);
      else {
        const node = NODES.find(({ id }) => id === target.node);
        for (const [option, choice] of Object.entries(target.options))
          expect(node?.options[option]?.choices.map(({ value }) => value)).toContain(choice);
        expect(node?.id).toBe(target.node);
      }
  });
  it.each(['multiply', 'add', 'subtract', 'divide', 'average', 'maximum', 'minimum', 'invert'])(
    'offers %s of numbers and colours alike before the same of colours alone',
    (word) => {
      expect(first(word)).toBe(`math.math ${word}`);
    },
  );
  it.each(TRADE_WORDS)(
    'finds $word where it belongs, first or after what bears its name',
    (term) => {
      const { word, target } = term;
      if ('ready' in target) {
        expect(readyByTrade(word)).toContain(target.ready);
        expect(isTradeNameOf(word, target.ready)).toBe(true);
        return;
      }
      const hits = searchNodes(word).slice(0, 4);
      expect(hits.map(({ definition, options }) => [definition.id, options])).toContainEqual([
        target.node,
        target.options,
      ]);
    },
  );
  it.each([
    ['screen', 'colour.blend screen'],
    ['dodge', 'colour.blend dodge'],
    ['triplanar', 'coordinates.three-way'],
    ['monochrome', 'colour.to-grey'],
    ['elevation', 'model.position'],
    ['height', 'model.position'],
    ['rotate hue', 'colour.correct'],
    ['seed', 'model.random'],
    ['raw', 'patterns.image data'],
    ['random per object', 'model.random'],
    ['dirt', 'model.occlusion'],
    ['clamp', 'ranges.clamp'],
    ['histogram', 'ranges.levels'],
    ['scan', 'patterns.image'],
    ['vector add', 'math.formula'],
    ['invert', 'math.math invert'],
    ['normal', 'model.normal'],
    ['noise', 'patterns.noise'],
  ])('%s is %s', (query, wanted) => {
    expect(first(query)).toBe(wanted);
  });
  it('a window by position and contrast is a ready chain', () => {
    for (const words of ['window', 'position contrast', 'position and contrast'])
      expect(readyByTrade(words)).toEqual(['Mask tightener']);
  });
  it('finds nothing where nothing is meant', () => {
    expect(first('zzyzx')).toBe('nothing');
    expect(readyByTrade('')).toEqual([]);
  });
});
