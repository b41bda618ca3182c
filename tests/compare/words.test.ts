/** Lists of changes speak as the interface does, and say what changed inside a value. */
import { listChanges } from '@/core/compare/document-changes';
import { setOption, setValue } from '@/core/edit/nodes';
import type { InputValue, NetworkDocument } from '@/core/graph/document';
import { documentOf, node } from '../support/networks';

const said = (before: NetworkDocument, after: NetworkDocument): string[] =>
  listChanges(before, after).map(({ what, before: was, after: is }) => `${what}: ${was} → ${is}`);
const ramp = (colour: readonly [number, number, number], position = 0.5): InputValue =>
  ({
    stops: [
      { id: 'a', position: 0, colour: [0, 0, 0], alpha: 1 },
      { id: 'b', position, colour, alpha: 1 },
      { id: 'c', position: 1, colour: [1, 1, 1], alpha: 1 },
    ],
  }) as unknown as InputValue;

describe('words of changes', () => {
  it('name choices by their titles, and what is untyped by its value', () => {
    const cells = documentOf([node('n', 'patterns.cell-noise')]);
    const [metric] = said(cells, setOption(cells, null, 'n', 'metric', 'largest'));
    expect(metric).toMatch(/^[A-Z][a-z]+.*: [A-Z].* → [A-Z]/);
    expect(metric).not.toContain('metric');
    expect(metric).not.toContain('its default');
    expect(said(cells, setValue(cells, null, 'n', 'jitter', 0.2))[0]).toMatch(/^Jitter: 1 → 0.2$/);
  });
  it('say which stop of a ramp has another colour, and that another has moved', () => {
    const before = documentOf([node('n', 'gradients.ramp', { stops: ramp([1, 0, 0]) })]);
    const after = setValue(before, null, 'n', 'stops', ramp([0, 0, 1], 0.25));
    expect(said(before, after)).toEqual([
      'Stops: stop 2 position 0.5, stop 2 colour #ff0000 → ' +
        'stop 2 position 0.25, stop 2 colour #0000ff',
    ]);
  });
  it('say what of a light is another', () => {
    const light = {
      id: 'l1',
      name: 'Key',
      kind: 'far' as const,
      at: [1, 2, 3] as const,
      colour: [1, 1, 1] as const,
      intensity: 1,
    };
    const lit = (intensity: number): NetworkDocument => ({
      ...documentOf([node('n', 'constants.number')]),
      lights: [{ ...light, intensity }],
    });
    expect(said(lit(1), lit(7))).toEqual(['lights: “Key” intensity 1 → “Key” intensity 7']);
  });
});
