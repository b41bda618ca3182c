import { own } from '../base/own';
import { findNodeDefinition } from '../compile/catalogue';
import { compileNetwork } from '../compile/compile';
import type { GroupDefinition } from '../graph/document';
import { outputKey } from '../graph/result-key';
import { ALONE, cardAlone } from './card-alone';
import type { ReleasedGroups } from './release-groups';

/** What can be asked for in the library, by the names under which it is looked for. */
export interface GroupFacts {
  /** What goes out: a mask counts as a scalar. */
  readonly gives: readonly string[];
  /** What it cannot do without. */
  readonly needs: readonly string[];
  /** What its look follows beside the surface. */
  readonly follows: readonly string[];
  /** The titles of the nodes it is made of, the most used first. */
  readonly madeOf: readonly string[];
  readonly nodes: number;
}

/** What a program that reads a lane of the model needs, by the beginning of the lane's name. */
const NEEDS: readonly (readonly [RegExp, string])[] = [
  [/^uv\./, 'texture coordinates'],
  [/^attribute:/, 'attributes'],
  [/^part\./, 'parts'],
];

/**
 * What the group cannot do without at home, with nothing wired to it: read off its program, so that
 * what no output depends on does not count.
 */
function needsOf(groups: ReleasedGroups, outputs: readonly string[]): readonly string[] {
  const document = cardAlone(groups);
  try {
    const { liveInputs, imageSlots } = compileNetwork(document, {
      surface: false,
      taps: outputs.map((id) => outputKey([ALONE], id)),
    });
    const lanes = [...liveInputs];
    return [
      ...NEEDS.filter(([name]) => lanes.some((lane) => name.test(lane))).map(([, need]) => need),
      ...(imageSlots.length > 0 ? ['images'] : []),
    ];
  } catch {
    // What cannot be compiled is refused elsewhere; here it only stays unfound by its needs.
    return [];
  }
}

/** The facts of a group by which it is found and warned of; those of groups inside count. */
export function groupFacts(groups: ReleasedGroups): GroupFacts {
  const { root, definitions } = groups;
  const group = own(definitions, root);
  const nodes = Object.values(definitions).flatMap(({ network }) => network.nodes);
  const counts = new Map<string, number>();
  for (const node of nodes) {
    const title = findNodeDefinition(node)?.title;
    if (title) counts.set(title, (counts.get(title) ?? 0) + 1);
  }
  return {
    gives: [...new Set((group?.outputs ?? []).map(({ kind }) => kind))],
    needs: needsOf(
      groups,
      (group?.outputs ?? []).map(({ id }) => id),
    ),
    follows: [...new Set(nodes.flatMap((node) => findNodeDefinition(node)?.follows ?? []))].sort(),
    madeOf: [...counts].sort((a, b) => b[1] - a[1]).map(([title]) => title),
    nodes: nodes.length,
  };
}

/** The words a group is found by, by how much they count: name and tags come from the entry. */
export function groupWords(groups: ReleasedGroups): {
  readonly dials: string;
  readonly help: string;
  readonly madeOf: string;
} {
  const definitions = Object.values(groups.definitions);
  const group = own<GroupDefinition>(groups.definitions, groups.root);
  const nodes = definitions.flatMap(({ network }) => network.nodes);
  const made = nodes.flatMap((node) => {
    const definition = findNodeDefinition(node);
    return definition ? [definition.title, ...definition.synonyms] : [];
  });
  const inner = definitions.filter(({ id }) => id !== groups.root).map(({ name }) => name);
  const ports = [...(group?.inputs ?? []), ...(group?.outputs ?? [])].map(({ name }) => name);
  return {
    dials: [...(group?.dials ?? []).map(({ name }) => name), ...ports].join(' '),
    help: (group?.dials ?? []).map(({ help }) => help).join(' '),
    madeOf: [...new Set([...made, ...inner])].join(' '),
  };
}
