import type { Dial, GroupDefinition } from '@/core/graph/document';

export type Edit = (group: GroupDefinition) => GroupDefinition;

export const dialsOf = ({ dials }: GroupDefinition): readonly Dial[] => dials;

/** Changes one dial; a number beyond the last begins anew. */
export const withDial =
  (at: number, change: (dial: Dial) => Dial): Edit =>
  (group) => ({
    ...group,
    dials: group.dials.map((dial, k) => (k === at % group.dials.length ? change(dial) : dial)),
  });

/** A number scaled so that its place in the range of a dial or a node differs surely. */
const moved = (value: number): number => (value === 0 ? 0.37 : value * 0.71);

/**
 * Makes the group look otherwise without taking anything away: the home of a dial that is a number,
 * or, every other time, a number inside that a dial drives.
 */
export const changesValue =
  (k: number): Edit =>
  (group) => {
    const numbers = group.dials.filter(
      ({ kind, home, drives }) =>
        kind === 'scalar' && typeof home === 'number' && drives.length > 0,
    );
    const dial = numbers[Math.floor(k / 2) % numbers.length];
    if (!dial || typeof dial.home !== 'number') throw new Error('a group without a number');
    // What an "as is" or a span sets does not depend on what stands inside.
    const drive = dial.drives.find(({ law }) => law === 'times' || law === 'lift');
    if (k % 2 === 0 || !drive) {
      const to = (dial.home + dial.soft[0] * 2) / 3;
      const home = to === dial.home ? (dial.home + dial.soft[1]) / 2 : to;
      return withDial(group.dials.indexOf(dial), (each) => ({ ...each, home }))(group);
    }
    return {
      ...group,
      network: {
        ...group.network,
        nodes: group.network.nodes.map((node) => {
          const value = node.id === drive.node ? node.values[drive.input] : undefined;
          if (node.id !== drive.node) return node;
          const now = typeof value === 'number' ? moved(value) : 0.37;
          return { ...node, values: { ...node.values, [drive.input]: now } };
        }),
      },
    };
  };
