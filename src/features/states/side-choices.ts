import type { StateView } from '@/contract/states';
import { sideKey } from '@/state/compared-sides';
import type { Side } from '@/state/compared-sides';
import type { PlacedVersion } from '@/state/placed-releases';

/** The two sides of the comparison; the second follows the work unless another is chosen. */
export interface Sides {
  readonly before: Side | null;
  readonly after: Side;
}
export interface SideChoice {
  readonly value: string;
  readonly title: string;
  readonly side: Side;
}
export interface Choosable {
  readonly states: readonly StateView[];
  /** Materials that were chosen to compare with. */
  readonly materials: readonly { readonly id: string; readonly name: string }[];
  /** Releases of what is placed, that are not in use here. */
  readonly releases: readonly PlacedVersion[];
  /** How many steps can be undone. */
  readonly steps: number;
  readonly revision: number;
  /** Revisions that are sides already, however old. */
  readonly sides: readonly number[];
  /** The chosen nodes, and those of them that are groups. */
  readonly chosen: readonly string[];
  readonly groups: readonly string[];
}

/** So many saved revisions are offered. */
const MOST_OFFERED = 12;

const choice = (title: string, side: Side): SideChoice => ({ value: sideKey(side), title, side });

/** All that a material can be compared with. */
export function sideChoices(given: Choosable): readonly SideChoice[] {
  const { states, materials, releases, steps, revision, sides, chosen, groups } = given;
  const newest = Array.from({ length: Math.min(MOST_OFFERED, revision) }, (_, k) => revision - k);
  const revisions = [...new Set([...newest, ...sides])];
  return [
    choice('Now', { of: 'now' }),
    ...(steps > 0 ? [choice('Before the last step', { of: 'before', steps: 1 })] : []),
    ...(steps > 1 ? [choice('As it was opened', { of: 'before', steps })] : []),
    ...(chosen.length > 0 ? [choice('Now, without what is chosen', without(chosen))] : []),
    ...(groups.length > 0
      ? [choice('Now, the chosen group at home', { of: 'home', nodes: groups })]
      : []),
    ...states.map(({ id, name }) => choice(`State “${name}”`, { of: 'state', id })),
    ...releases.map(({ entryId, entryName, version }) =>
      choice(`Now, with ${entryName} ${version}`, { of: 'release', entryId, version }),
    ),
    ...revisions.map((number) => choice(`Revision ${String(number)}`, { of: 'revision', number })),
    ...materials.map(({ id, name }) => choice(`Material “${name}”`, { of: 'material', id })),
  ];
}
const without = (nodes: readonly string[]): Side => ({ of: 'without', nodes });
