/** Transfer plots against closed forms: the curve, its band, what arrives, where range is lost. */
import { TransferMeter } from '@/core/evaluate/transfer';
import type { Transfer } from '@/core/evaluate/transfer';
import { LoadedModel } from '@/core/evaluate/loaded-model';
import { chainBetween } from '@/core/explain/replaced-output';
import { groupSelection } from '@/core/edit/group';
import { setValue } from '@/core/edit/nodes';
import type { NetworkDocument } from '@/core/graph/document';
import { documentOf, node } from '../support/networks';
import { demoModel } from '../support/ready-card';

const loaded = demoModel('study').then(({ analysis }) => new LoadedModel(analysis.mesh));
async function measured(document: NetworkDocument, from: string, to: string): Promise<Transfer> {
  const found = new TransferMeter().measure(await loaded, document, from, to);
  if (!found) throw new Error(`${to} does not depend on ${from}`);
  return found;
}
const noise = node('noise', 'patterns.noise', { scale: 4 });
const clamp01 = (x: number): number => Math.min(1, Math.max(0, x));

describe('a curve', () => {
  it('of a smoothstep is its polynomial', async () => {
    const document = documentOf(
      [noise, node('step', 'ranges.smoothstep', { edge: 0.5, width: 0.4 })],
      ['noise:value > step:value'],
    );
    const { x, channels, flats } = await measured(document, 'noise:value', 'step:mask');
    x.forEach((at, k) => {
      const t = clamp01((at - 0.3) / 0.4);
      expect(channels[0]?.middle[k]).toBeCloseTo(t * t * (3 - 2 * t), 5);
      expect(channels[0]?.low[k]).toBe(channels[0]?.high[k]);
    });
    expect(flats.map(({ from, to }) => [from.toFixed(1), to.toFixed(1)])).toEqual([
      ['0.0', '0.3'],
      ['0.7', '1.0'],
    ]);
    expect(flats[0]?.node?.title).toBe('Smoothstep');
  });
  it('of a chain names the node that loses the range, not those after it', async () => {
    const document = documentOf(
      [
        noise,
        node('double', 'math.math', { b: 2 }, { operation: 'multiply' }),
        node('clamp', 'ranges.clamp'),
        node('flip', 'math.math', {}, { operation: 'invert' }),
      ],
      ['noise:value > double:a', 'double:value > clamp:value', 'clamp:value > flip:a'],
    );
    const { x, channels, flats } = await measured(document, 'noise:value', 'flip:value');
    x.forEach((at, k) => {
      expect(channels[0]?.middle[k]).toBeCloseTo(1 - clamp01(2 * at), 5);
    });
    expect(flats).toHaveLength(1);
    expect(flats[0]?.node?.path).toEqual(['clamp']);
    expect(flats[0]?.from).toBeCloseTo(0.5, 2);
    const above = flats[0]?.share ?? 0;
    expect(above).toBeGreaterThan(0.2);
    expect(above).toBeLessThan(0.8);
  });
  it('has a band where another input varies over the surface', async () => {
    const document = documentOf(
      [noise, node('p', 'model.position'), node('mix', 'math.mix', { b: 1 })],
      ['noise:value > mix:amount', 'p:y > mix:a'],
    );
    const { channels } = await measured(document, 'noise:value', 'mix:value');
    const [only] = channels;
    expect((only?.high[0] ?? 0) - (only?.low[0] ?? 0)).toBeGreaterThan(0.1);
    expect(only?.high.at(-1)).toBeCloseTo(1, 5);
    expect(only?.low.at(-1)).toBeCloseTo(1, 5);
  });
  it('of a ramp has a channel for each of its colours', async () => {
    const document = documentOf(
      [noise, node('ramp', 'gradients.ramp')],
      ['noise:value > ramp:value'],
    );
    expect((await measured(document, 'noise:value', 'ramp:colour')).channels).toHaveLength(3);
  });
  it('goes through a whole group', async () => {
    const document = documentOf(
      [
        noise,
        node('double', 'math.math', { b: 2 }, { operation: 'multiply' }),
        node('out', 'math.math', { b: 0.25 }, { operation: 'add' }),
      ],
      ['noise:value > double:a', 'double:value > out:a'],
    );
    const grouped = groupSelection(document, {
      board: null,
      ids: ['double'],
      name: 'Doubled',
      path: [],
    });
    const { x, channels } = await measured(grouped.document, 'noise:value', 'out:value');
    x.forEach((at, k) => {
      expect(channels[0]?.middle[k]).toBeCloseTo(2 * at + 0.25, 5);
    });
  });
});

it('follows a dragged value, and what arrives adds up to all of the surface', async () => {
  const document = documentOf(
    [noise, node('step', 'ranges.smoothstep', { edge: 0.5, width: 0.4 })],
    ['noise:value > step:value'],
  );
  const meter = new TransferMeter();
  const model = await loaded;
  for (const edge of [0.3, 0.6]) {
    const moved = setValue(document, null, 'step', 'edge', edge);
    const found = meter.measure(model, moved, 'noise:value', 'step:mask');
    const half = found?.x.findIndex((at) => at >= edge) ?? -1;
    expect(found?.channels[0]?.middle[half]).toBeCloseTo(0.5, 1);
    expect(found?.arriving.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 6);
  }
});

it('is nothing between outputs of which neither feeds the other', () => {
  const document = documentOf([noise, node('other', 'patterns.noise')]);
  expect(chainBetween(document, 'noise:value', 'other:value')).toEqual([]);
});
