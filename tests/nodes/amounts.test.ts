/** Overall amounts: 0 as if off, 1 as if none to the bit; between; settled, the look stays. */
import { passesOn } from '@/core/compile/bypass';
import { describePorts } from '@/core/compile/catalogue';
import { structureKey } from '@/core/compile/structure';
import { setAmount, setDialAmount, settleAmount, settleDial } from '@/core/edit/amounts';
import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { setValue } from '@/core/edit/nodes';
import { ungroup } from '@/core/edit/ungroup';
import { changeNode } from '@/core/edit/board';
import { EvaluationSession } from '@/core/evaluate/session';
import { isMark } from '@/core/edit/marks';
import type { NetworkDocument } from '@/core/graph/document';
import { STARTERS } from '@/core/starters/starters';
import { uniformPoints } from '@/core/mesh/sample-points';
import { documentOf, node } from '../support/networks';
import { outputAt } from '../support/evaluate';
import { demoModel } from '../support/ready-card';

const model = demoModel('study');
async function surfaceOf(document: NetworkDocument): Promise<readonly Float32Array[]> {
  const { analysis, maps } = await model;
  const session = new EvaluationSession({ surface: true, taps: [] });
  return session.evaluate(document, analysis.mesh, uniformPoints(analysis.mesh, 64), maps);
}
const toggled = (document: NetworkDocument, id: string): NetworkDocument =>
  changeNode(document, null, id, (each) => ({ ...each, off: true }));
const isPassing = (document: NetworkDocument, id: string): boolean => {
  const found = document.network.nodes.find((each) => each.id === id);
  const ports = found && describePorts(document, found);
  return found !== undefined && ports != null && passesOn(found, ports, document.network);
};
const bytesOf = (lanes: readonly Float32Array[]): readonly string[] =>
  lanes.map((lane) => Buffer.from(lane.buffer).toString('hex'));
const nodesOf = (document: NetworkDocument): readonly string[] =>
  document.network.nodes.map(({ id }) => id).filter((id) => !isMark(id));
/** Five of them, from the first to the last. */
const someNodes = (document: NetworkDocument): readonly string[] => {
  const all = nodesOf(document);
  return all.filter((_id, k) => k % Math.ceil(all.length / 5) === 0);
};
/** The largest difference of any lane at any point. */
const apart = (a: readonly Float32Array[], b: readonly Float32Array[]): number =>
  Math.max(...a.flatMap((lane, l) => [...lane].map((x, k) => Math.abs(x - (b[l]?.[k] ?? NaN)))));

describe.each(STARTERS.map((starter) => [starter.id, starter] as const))(
  'amounts in %s',
  (_id, starter) => {
    it('are nothing at 1 to the bit, and off at 0 where something is passed on', async () => {
      const document = starter.document();
      const plain = bytesOf(await surfaceOf(document));
      for (const id of someNodes(document)) {
        expect(bytesOf(await surfaceOf(setAmount(document, null, id, 1)))).toEqual(plain);
        if (!isPassing(document, id)) continue;
        const none = await surfaceOf(setAmount(document, null, id, 0));
        const off = await surfaceOf(toggled(document, id));
        expect(apart(none, off)).toBeLessThan(1e-6);
      }
    }, 120_000);
    it('settle into nodes of the board that look the same', async () => {
      const document = starter.document();
      for (const id of someNodes(document)) {
        const pulled = setAmount(document, null, id, 0.6);
        const settled = settleAmount(pulled, null, id);
        expect(settled.network.nodes.some(({ amount }) => amount !== undefined)).toBe(false);
        const difference = apart(await surfaceOf(pulled), await surfaceOf(settled));
        expect([id, difference < 1e-5 ? 0 : difference]).toEqual([id, 0]);
      }
    }, 120_000);
  },
);

const levels = documentOf(
  [node('p', 'model.position'), node('lift', 'ranges.lift', { lift: 1.5 })],
  ['p:x > lift:value'],
);

it('lie between what goes in and what comes out, and beyond', () => {
  const at = { 'position.x': [0.1, 0.5] };
  const [out] = outputAt(levels, 'lift:value', at, 2);
  for (const amount of [0, 1 / 3, 2 / 3, 1.5, 2]) {
    const [pulled] = outputAt(setAmount(levels, null, 'lift', amount), 'lift:value', at, 2);
    at['position.x'].forEach((x, k) => {
      expect(pulled?.[k]).toBeCloseTo(x + ((out?.[k] ?? NaN) - x) * amount, 5);
    });
  }
});

it('are dragged without compiling, and touch no value', () => {
  const [third, half] = [1 / 3, 0.5].map((amount) => setAmount(levels, null, 'lift', amount));
  expect(structureKey(third as NetworkDocument)).toBe(structureKey(half as NetworkDocument));
  expect(third?.network.nodes[1]?.values).toBe(levels.network.nodes[1]?.values);
  expect(setAmount(third as NetworkDocument, null, 'lift', null)).toEqual(levels);
});

/** The same with a node that reads what comes out. */
const used = documentOf(
  [...levels.network.nodes, node('after', 'math.math', { b: 0 }, { operation: 'add' })],
  ['p:x > lift:value', 'lift:value > after:a'],
);
const endOf = (document: NetworkDocument): number => {
  const value = outputAt(document, 'after:value', { 'position.x': [0.25] }, 1)[0]?.[0];
  if (value === undefined) throw new Error('nothing comes out');
  return value;
};

it('of a dial lie between its home and what is set; settled, the value is that', () => {
  const grouped = groupSelection(used, { board: null, ids: ['lift'], name: 'Lift', path: [] });
  const dialled = addDial(grouped.document, grouped.groupId, 'lift', 'lift', 'times', 'More');
  const dial = dialled?.document.groups[grouped.groupId]?.dials[0]?.id ?? '';
  const card = grouped.nodeId;
  const set = setValue(dialled?.document as NetworkDocument, null, card, dial, 2);
  const pulled = setDialAmount(set, null, card, dial, 2 / 3);
  const settled = settleDial(pulled, null, card, dial);
  expect(endOf(pulled)).toBe(endOf(setValue(set, null, card, dial, 1 + 2 / 3)));
  expect(endOf(settled)).toBe(endOf(pulled));
  expect(settled.network.nodes.find(({ id }) => id === card)?.amounts).toBeUndefined();
  expect(endOf(setDialAmount(set, null, card, dial, 0))).toBe(
    endOf(dialled?.document as NetworkDocument),
  );
});

it('of a group that is dissolved stay seen', () => {
  const grouped = groupSelection(used, { board: null, ids: ['lift'], name: 'Lift', path: [] });
  const pulled = setAmount(grouped.document, null, grouped.nodeId, 0.5);
  const dissolved = ungroup(pulled, null, grouped.nodeId);
  expect(endOf(pulled)).not.toBeCloseTo(endOf(grouped.document), 3);
  expect(endOf(dissolved)).toBeCloseTo(endOf(pulled), 5);
});
