import { describe, expect, it } from '@jest/globals';
import { seededRandom } from '../base/random';
import { applyPatch, diffJson } from './patch';
import type { JsonPatch } from './patch';

type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json };

/** A value like a document's: lists of things with ids, records, numbers. */
function randomValue(random: () => number, depth: number): Json {
  const pick = Math.floor(random() * (depth > 0 ? 7 : 4));
  if (pick === 0) return Math.floor(random() * 5);
  if (pick === 1) return ['a/b', 'm~n', ''][Math.floor(random() * 3)] ?? '';
  if (pick === 2) return random() < 0.5;
  if (pick === 3) return null;
  const some = Array.from({ length: Math.floor(random() * 5) }, (_, k) => k);
  if (pick === 4) return some.map(() => randomValue(random, depth - 1));
  if (pick === 5) {
    const ids = some.map((k) => k * 2 + Math.floor(random() * 2)).sort(() => random() - 0.5);
    return [...new Set(ids)].map((id) => ({
      id: `n${String(id)}`,
      value: randomValue(random, depth - 1),
    }));
  }
  return Object.fromEntries(
    some.map((k) => [`k/${String(k * Math.ceil(random() * 2))}`, randomValue(random, depth - 1)]),
  );
}

describe('a patch', () => {
  it('makes the one value of the other, whatever they are', () => {
    const random = seededRandom(4);
    for (let k = 0; k < 4000; k++) {
      const [before, after] = [randomValue(random, 4), randomValue(random, 4)];
      const copy = structuredClone(before);
      const patch = JSON.parse(JSON.stringify(diffJson(before, after))) as JsonPatch;
      expect(applyPatch(before, patch)).toEqual(after);
      expect(before).toEqual(copy);
    }
  });

  it('says only what changed, and shares the rest', () => {
    const nodes = Array.from({ length: 50 }, (_, k) => ({ id: `n${String(k)}`, values: { a: k } }));
    const before = { name: 'x', network: { nodes, strands: [] } };
    const changed = nodes.map((node) =>
      node.id === 'n7' ? { ...node, values: { ...node.values, a: 0.5 } } : node,
    );
    const after = { ...before, network: { ...before.network, nodes: changed } };
    expect(diffJson(before, after)).toEqual([
      { op: 'replace', path: '/network/nodes/7/values/a', value: 0.5 },
    ]);
    const made = applyPatch(before, diffJson(before, after)) as typeof after;
    expect(made.network.nodes[8]).toBe(nodes[8]);
    expect(made.network.strands).toBe(before.network.strands);
    const shorter = { ...before, network: { ...before.network, nodes: nodes.slice(1) } };
    expect(diffJson(before, shorter)).toEqual([{ op: 'remove', path: '/network/nodes/0' }]);
    expect(diffJson(shorter, before)).toEqual([
      { op: 'add', path: '/network/nodes/0', value: nodes[0] },
    ]);
    expect(diffJson(before, before)).toEqual([]);
  });

  it('is refused where it does not fit, and reaches no prototype', () => {
    const value = { list: [1, 2], members: { a: 1 } };
    const steps: JsonPatch = [
      { op: 'replace', path: '/list/2', value: 0 },
      { op: 'add', path: '/list/3', value: 0 },
      { op: 'replace', path: '/list/1.5', value: 0 },
      { op: 'replace', path: '/list/ 1', value: 0 },
      { op: 'remove', path: '/members/b' },
      { op: 'replace', path: '/members/constructor', value: 0 },
      { op: 'add', path: '/members/a/b', value: 0 },
      { op: 'add', path: '/nowhere/b', value: 0 },
      { op: 'add', path: '/members/__proto__', value: { bad: true } },
      { op: 'add', path: '/__proto__/bad', value: true },
      { op: 'add', path: '/members/toString/bad', value: true },
      { op: 'remove', path: '' },
    ];
    for (const step of steps)
      expect(() => applyPatch(value, [step])).toThrow('does not fit what it is made to');
    expect(value).toEqual({ list: [1, 2], members: { a: 1 } });
    expect(applyPatch(value, [{ op: 'add', path: '/members/constructor', value: 3 }])).toEqual({
      list: [1, 2],
      members: { a: 1, constructor: 3 },
    });
    expect(applyPatch(value, [{ op: 'add', path: '/list/-', value: 3 }])).toMatchObject({
      list: [1, 2, 3],
    });
  });
});
