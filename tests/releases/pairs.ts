/** Pairs of releases with the class they have by how they were made. */
import { changesValue, dialsOf, withDial } from './group-edits';
import type { Edit } from './group-edits';
import type { ReleaseClass } from '@/core/releases/versions';
import type { GroupDefinition } from '@/core/graph/document';
import { node } from '../support/networks';

type Group = GroupDefinition;
const mapNodes =
  (
    change: (n: Group['network']['nodes'][number], k: number) => Group['network']['nodes'][number],
  ): Edit =>
  (group) => ({
    ...group,
    network: { ...group.network, nodes: group.network.nodes.map(change) },
  });

const loose =
  (id: string, type: string): Edit =>
  (group) => ({
    ...group,
    network: { ...group.network, nodes: [...group.network.nodes, node(id, type)] },
  });

/** Edits that nobody who uses the group could see. */
const UNSEEN: readonly (readonly [string, Edit])[] = [
  ['a new name', (group) => ({ ...group, name: `${group.name}, again` })],
  ['another description', (group) => ({ ...group, description: 'Said better.' })],
  ['nodes moved', mapNodes((each, k) => ({ ...each, at: [k * 300, 40] }))],
  [
    'nodes in another order',
    (group) => ({
      ...group,
      network: { ...group.network, nodes: [...group.network.nodes].reverse() },
    }),
  ],
  ['a node that leads nowhere', loose('loose', 'patterns.noise')],
  ['nodes named', mapNodes((each) => ({ ...each, name: `The ${each.id}` }))],
  ['a dial renamed', withDial(0, (dial) => ({ ...dial, name: 'Called otherwise' }))],
  ['help written', withDial(0, (dial) => ({ ...dial, help: 'Lower: less. Higher: more.' }))],
  ['ends named', withDial(0, (dial) => ({ ...dial, ends: { low: 'less', high: 'more' } }))],
  ['another section', withDial(0, (dial) => ({ ...dial, section: 'Fine work' }))],
  ['dials in another order', (group) => ({ ...group, dials: [...group.dials].reverse() })],
  [
    'a wider range to type',
    (group) => ({
      ...group,
      dials: group.dials.map((dial) => ({
        ...dial,
        hard: [dial.hard[0] - 1, dial.hard[1] + 1] as const,
      })),
    }),
  ],
  [
    'a dial that drives nothing yet',
    (group) => ({
      ...group,
      dials: [
        ...group.dials,
        { ...dialsOf(group)[0], id: 'new', name: 'New', drives: [] } as Group['dials'][number],
      ],
    }),
  ],
  [
    'another input that leads nowhere',
    (group) => ({
      ...group,
      inputs: [...group.inputs, { id: 'more', name: 'More', kind: 'scalar' }],
    }),
  ],
  [
    'another output',
    (group) => ({
      ...group,
      outputs: [...group.outputs, { id: 'more', name: 'More', kind: 'scalar' }],
    }),
  ],
  ['limits stated', (group) => ({ ...group, limits: 'Not for thin walls.' })],
  [
    'notes on its board',
    (group) => ({
      ...group,
      network: { ...group.network, notes: [{ id: 'n', text: 'Here the grain.', at: [0, 0] }] },
    }),
  ],
  ['cards folded', mapNodes((each) => ({ ...each, folded: true }))],
  ['a finer step', withDial(0, (dial) => ({ ...dial, step: dial.step / 2 }))],
  [
    'a variant',
    (group) => ({
      ...group,
      variants: [{ id: 'v9', name: 'As it was', values: {} }],
    }),
  ],
];

/** Edits after which something is missing. */
const BROKEN: readonly (readonly [string, Edit])[] = [
  ...[0, 1, 2, 3].map((k): readonly [string, Edit] => [
    `dial ${String(k)} gone`,
    (group) => ({ ...group, dials: group.dials.filter((_, at) => at !== k % group.dials.length) }),
  ]),
  ...[0, 1, 2].map((k): readonly [string, Edit] => [
    `dial ${String(k)} under another id`,
    withDial(k, (dial) => ({ ...dial, id: `${dial.id}-b` as typeof dial.id })),
  ]),
  ['no dials', (group) => ({ ...group, dials: [] })],
  ...[0.4, 0.3, 0.2].map((by): readonly [string, Edit] => [
    `ranges narrower by ${String(by)}`,
    (group) => ({
      ...group,
      dials: group.dials.map((dial) => ({
        ...dial,
        hard: [dial.hard[0] + by, dial.hard[1] - by] as const,
      })),
    }),
  ]),
  [
    'outputs under another id',
    (group) => ({
      ...group,
      outputs: group.outputs.map((port) => ({ ...port, id: `${port.id}-b` as typeof port.id })),
    }),
  ],
  [
    'the first output gone',
    (group) => ({
      ...group,
      outputs: [{ id: 'other', name: 'Other', kind: 'scalar' }],
    }),
  ],
  [
    'outputs that are colours',
    (group) => ({
      ...group,
      outputs: group.outputs.map((port) => ({
        ...port,
        kind: port.kind === 'colour' ? ('scalar' as const) : ('colour' as const),
      })),
    }),
  ],
  ...[0, 1, 2].map((k): readonly [string, Edit] => [
    `dial ${String(k)} of another kind`,
    withDial(k, (dial) =>
      dial.kind === 'colour'
        ? { ...dial, kind: 'scalar' as const, home: 1 }
        : { ...dial, kind: 'colour' as const, home: [1, 1, 1] as const, drives: [] },
    ),
  ]),
  ['the last dial gone', (group) => ({ ...group, dials: group.dials.slice(0, -1) })],
  [
    'all dials under other ids',
    (group) => ({
      ...group,
      dials: group.dials.map((dial) => ({ ...dial, id: `${dial.id}-b` as typeof dial.id })),
    }),
  ],
  ['all but one dial gone', (group) => ({ ...group, dials: group.dials.slice(0, 1) })],
];

/** Edits that change what is seen and nothing that is used: values inside, one after the other. */
const SEEN: readonly (readonly [string, Edit])[] = Array.from({ length: 20 }, (_, k) => [
  `look ${String(k)}`,
  changesValue(k),
]);

export interface Pair {
  readonly title: string;
  readonly edit: Edit;
  readonly releaseClass: Exclude<ReleaseClass, 'first'>;
}
export const PAIRS: readonly Pair[] = [
  ...UNSEEN.map(([title, edit]): Pair => ({ title, edit, releaseClass: 'same' })),
  ...SEEN.map(([title, edit]): Pair => ({ title, edit, releaseClass: 'compatible' })),
  ...BROKEN.map(([title, edit]): Pair => ({ title, edit, releaseClass: 'breaking' })),
];
