import { READY_GROUPS } from '@/core/edit/ready-groups';
import type { GroupDefinition } from '@/core/graph/document';
import type { ProofModel } from '@/core/evaluate/proof';
import { compareReleases } from '@/core/releases/release-class';
import type { ReleasedGroups } from '@/core/releases/release-groups';
import { compareVersions, newestOf, nextVersion } from '@/core/releases/versions';
import { demoModel } from '../support/ready-card';
import { PAIRS } from './pairs';

let models: readonly ProofModel[];
beforeAll(async () => {
  models = [await demoModel('study'), await demoModel('tile')];
}, 60000);

const released = (group: GroupDefinition): ReleasedGroups => ({
  root: group.id,
  definitions: { [group.id]: group },
});
const groupAt = (k: number): GroupDefinition => {
  const ready = READY_GROUPS[k % READY_GROUPS.length];
  return { ...ready?.definition, id: 'g1' } as GroupDefinition;
};

describe('the class of a release', () => {
  it('has twenty pairs of each class', () => {
    for (const wanted of ['same', 'compatible', 'breaking'])
      expect(PAIRS.filter(({ releaseClass }) => releaseClass === wanted)).toHaveLength(20);
  });

  it.each(PAIRS.map((pair, k) => [`${pair.releaseClass}: ${pair.title}`, pair, k] as const))(
    '%s',
    (_title, { edit, releaseClass }, k) => {
      const before = groupAt(k);
      const found = compareReleases(released(before), released(edit(before)), models);
      expect({ group: before.name, ...found }).toMatchObject({
        group: before.name,
        releaseClass,
      });
      expect(found.missing.length > 0).toBe(releaseClass === 'breaking');
      if (releaseClass === 'compatible') expect(found.moved.length).toBeGreaterThan(0);
    },
    60000,
  );
});

describe('dials are compared by the value a card keeps', () => {
  /** Dials of the ready groups that multiply one typed number. */
  const times = READY_GROUPS.flatMap((_, k) => {
    const group = groupAt(k);
    return group.dials.flatMap((dial) => {
      const [drive] = dial.drives;
      const node = group.network.nodes.find(({ id }) => id === drive?.node);
      const designed = drive && node?.values[drive.input];
      return drive?.law === 'times' && dial.drives.length === 1 && typeof designed === 'number'
        ? [{ group, dial, drive, designed }]
        : [];
    });
  });
  it('whatever its place on a slider that was normalised anew', () => {
    expect(times.length).toBeGreaterThan(4);
    for (const { group, dial, drive, designed } of times) {
      // 0 to 2 about 1 becomes 0 to 1 about a half: ends and home give inside what they gave.
      const anew = {
        ...dial,
        home: 0.5,
        soft: [0, 1] as const,
        drives: [{ ...drive, law: 'span' as const, low: 0, high: 2 * designed }],
      };
      const dials = group.dials.map((each) => (each === dial ? anew : each));
      const found = compareReleases(released(group), released({ ...group, dials }), models);
      expect({ of: dial.name, is: found.releaseClass }).not.toEqual({ of: dial.name, is: 'same' });
    }
  }, 60000);
  it('a slider that is only longer or shorter changes no look', () => {
    for (let k = 0; k < READY_GROUPS.length; k++) {
      const group = groupAt(k);
      for (const factor of [0.5, 1.5]) {
        const dials = group.dials.map((dial) => {
          const [low, high] = dial.soft;
          const soft = [low, low + (high - low) * factor] as const;
          return dial.kind === 'scalar' && soft[1] <= dial.hard[1] ? { ...dial, soft } : dial;
        });
        const found = compareReleases(released(group), released({ ...group, dials }), models);
        expect(found).toMatchObject({ releaseClass: 'same', moved: [] });
      }
    }
  }, 60000);
});

describe('versions', () => {
  it('follow from the class, and pass over what is taken', () => {
    expect(nextVersion(null, 'first')).toBe('1.0.0');
    expect(nextVersion('1.2.3', 'same')).toBe('1.2.4');
    expect(nextVersion('1.2.3', 'compatible')).toBe('1.3.0');
    expect(nextVersion('1.2.3', 'breaking')).toBe('2.0.0');
    expect(nextVersion('1.2.3', 'compatible', ['1.3.0', '1.4.0'])).toBe('1.5.0');
  });

  it('are compared by number, not by letter', () => {
    expect(compareVersions('1.10.0', '1.9.9')).toBeGreaterThan(0);
    expect(newestOf(['1.9.9', '1.10.0', '0.99.1'])).toBe('1.10.0');
    expect(newestOf([])).toBeNull();
  });
});
