import { own } from '../base/own';
import { describePorts, findNodeDefinition } from '../compile/catalogue';
import { changeNode, getNetwork, withGroup } from '../edit/board';
import type { BoardId } from '../edit/board';
import { getInputValue } from '../compile/uniforms';
import { canonicalJson } from '../graph/canonical';
import type { Dial, GroupDefinition, NetworkDocument, NodeInstance } from '../graph/document';
import type { ChangeKind, DocumentChange } from './change';
import { showPair } from './show-value';
import { wiringChanges } from './wiring-changes';
import { titleInList } from '../compile/told-apart';

const asWords = (was: unknown, is: unknown): Pick<DocumentChange, 'before' | 'after'> => {
  const [before, after] = showPair(was, is);
  return { before, after };
};

type Values = Readonly<Record<string, unknown>>;
const differ = (a: unknown, b: unknown): boolean =>
  a !== b && canonicalJson(a ?? null) !== canonicalJson(b ?? null);
const keysOf = (...records: readonly object[]): readonly string[] => [
  ...new Set(records.flatMap((record) => Object.keys(record))),
];

/** A record with one member as given; without it where that is undefined. */
function withMember<R extends Values>(record: R, key: string, value: unknown): R {
  const rest = Object.entries(record).filter(([each]) => each !== key);
  return Object.fromEntries(value === undefined ? rest : [...rest, [key, value]]) as R;
}

/** Members of a node that neither place it nor say what it is, and what each is called. */
const MODES: Readonly<Record<string, string>> = {
  limited: 'limited to 0–1',
  off: 'off',
  version: 'version of the node',
};

const AMOUNTS: Readonly<Record<string, string>> = {
  amount: 'overall amount',
  amounts: 'amounts of dials',
};

interface Place {
  readonly board: BoardId;
  readonly words: string;
}

/** As the interface calls them: choices by their titles, what is not typed by what it is then. */
function wordsFor(document: NetworkDocument, node: NodeInstance) {
  const ports = describePorts(document, node)?.inputs ?? [];
  const options = findNodeDefinition(node)?.options ?? {};
  const portOf = (key: string) => ports.find(({ id }) => id === key);
  return {
    titleOf: (key: string): string => portOf(key)?.title ?? own(options, key)?.title ?? key,
    wordsOf: (kind: ChangeKind, key: string, value: unknown): unknown => {
      const option = kind === 'mode' ? own(options, key) : undefined;
      const choice = value ?? option?.default;
      if (option) return option.choices.find((each) => each.value === choice)?.title ?? choice;
      return value ?? getInputValue({ ...node, values: {} }, key) ?? portOf(key)?.port?.default;
    },
  };
}

/** What of one node is not as it was. */
function nodeChanges(
  before: NodeInstance,
  after: NodeInstance,
  { board, words }: Place,
  document: NetworkDocument,
): DocumentChange[] {
  const { titleOf, wordsOf } = wordsFor(document, after);
  const change = (
    kind: ChangeKind,
    what: string,
    was: unknown,
    is: unknown,
    put: (node: NodeInstance) => NodeInstance,
  ): DocumentChange => ({
    kind,
    board,
    node: after.id,
    place: words,
    what,
    ...asWords(was, is),
    undo: (whole) => changeNode(whole, board, after.id, put),
  });
  const members = (name: 'values' | 'options', kind: ChangeKind): DocumentChange[] =>
    keysOf(before[name], after[name]).flatMap((key) => {
      const [was, is] = [own<unknown>(before[name], key), own<unknown>(after[name], key)];
      if (!differ(was, is)) return [];
      return [
        change(kind, titleOf(key), wordsOf(kind, key, was), wordsOf(kind, key, is), (node) => ({
          ...node,
          [name]: withMember(node[name], key, was),
        })),
      ];
    });
  const plain = (
    titles: Readonly<Record<string, string>>,
    kind: ChangeKind,
    absent: unknown,
  ): DocumentChange[] =>
    Object.entries(titles).flatMap(([key, title]) => {
      const [was, is] = [(before as Values)[key], (after as Values)[key]];
      if (!differ(was, is)) return [];
      const put = (node: NodeInstance): NodeInstance => withMember(node, key, was);
      return [change(kind, title, was ?? absent, is ?? absent, put)];
    });
  const named = differ(before.name, after.name)
    ? [change('words', 'name', before.name, after.name, (n) => withMember(n, 'name', before.name))]
    : [];
  return [
    ...members('values', 'value'),
    ...members('options', 'mode'),
    ...plain(MODES, 'mode', false),
    ...plain(AMOUNTS, 'value', 1),
    ...named,
  ];
}

const WORDS: readonly (keyof Dial)[] = ['name', 'help', 'section', 'unit', 'ends'];

/** What of a group's dials is not as it was. */
function dialChanges(
  before: GroupDefinition,
  after: GroupDefinition,
  { board, words }: Place,
): DocumentChange[] {
  const ids = new Set([...before.dials, ...after.dials].map(({ id }) => id));
  return [...ids].flatMap((id): DocumentChange[] => {
    const find = ({ dials }: GroupDefinition): Dial | undefined => dials.find((d) => d.id === id);
    const [was, is] = [find(before), find(after)];
    if (!differ(was, is)) return [];
    const undo = (whole: NetworkDocument): NetworkDocument =>
      withGroup(whole, after.id, (group) => ({
        ...group,
        dials: was
          ? is
            ? group.dials.map((dial) => (dial.id === id ? was : dial))
            : [...group.dials, was]
          : group.dials.filter((dial) => dial.id !== id),
      }));
    const base = { board, node: null, place: words, undo };
    const title = `dial “${(is ?? was)?.name ?? id}”`;
    if (!was || !is)
      return [
        {
          ...base,
          kind: 'dial',
          what: title,
          before: was ? 'there' : 'not there',
          after: is ? 'there' : 'not there',
        },
      ];
    return (Object.keys({ ...was, ...is }) as (keyof Dial)[])
      .filter((key) => differ(was[key], is[key]))
      .map((key) => ({
        ...base,
        kind: WORDS.includes(key) ? ('words' as const) : ('dial' as const),
        what: `${title}: ${DIAL_WORDS[key] ?? key}`,
        ...asWords(was[key], is[key]),
        undo: (whole) =>
          withGroup(whole, after.id, (group) => ({
            ...group,
            dials: group.dials.map((dial) =>
              dial.id === id ? withMember(dial, key, was[key]) : dial,
            ),
          })),
      }));
  });
}

const DIAL_WORDS: Readonly<Partial<Record<keyof Dial, string>>> = {
  soft: 'range of the slider',
  hard: 'range that can be typed',
  drives: 'what it drives',
  choices: 'choices',
  kind: 'what it holds',
};

/** What of a board is not as it was. */
function boardChanges(
  before: NetworkDocument,
  after: NetworkDocument,
  board: BoardId,
  words: string,
): DocumentChange[] {
  const [was, is] = [getNetwork(before, board), getNetwork(after, board)];
  const place = (node: NodeInstance): Place => ({
    board,
    words: [words, titleInList(after, is, node)].filter((part) => part !== '').join(' › '),
  });
  const kept = is.nodes.flatMap((node) => {
    const old = was.nodes.find(({ id, type }) => id === node.id && type === node.type);
    return old && old !== node ? nodeChanges(old, node, place(node), after) : [];
  });
  return [...kept, ...wiringChanges({ before, after, board, words })];
}

/** Ports of a group, and what it says of itself. */
function groupChanges(
  before: GroupDefinition,
  after: GroupDefinition,
  words: string,
): DocumentChange[] {
  const members: readonly (readonly [keyof GroupDefinition, ChangeKind, string])[] = [
    ['inputs', 'wiring', 'inputs'],
    ['outputs', 'wiring', 'outputs'],
    ['variants', 'words', 'variants'],
    ['name', 'words', 'name'],
    ['description', 'words', 'description'],
    ['limits', 'words', 'limits'],
  ];
  const place: Place = { board: after.id, words };
  return [
    ...dialChanges(before, after, place),
    ...members.flatMap(([key, kind, what]): DocumentChange[] => {
      if (!differ(before[key], after[key])) return [];
      return [
        {
          kind,
          board: after.id,
          node: null,
          place: words,
          what,
          ...asWords(before[key], after[key]),
          undo: (whole) =>
            withGroup(whole, after.id, (group) => withMember(group, key, before[key])),
        },
      ];
    }),
  ];
}

/** What of the scene around a material is not as it was. */
function sceneChanges(before: NetworkDocument, after: NetworkDocument): DocumentChange[] {
  const members: readonly (readonly [keyof NetworkDocument, string])[] = [
    ['lights', 'lights'],
    ['surroundings', 'surroundings'],
    ['opacityMode', 'how opacity is shown'],
    ['companions', 'models beside it'],
  ];
  return members.flatMap(([key, what]): DocumentChange[] => {
    if (!differ(before[key], after[key])) return [];
    return [
      {
        kind: 'scene',
        board: null,
        node: null,
        place: 'Scene',
        what,
        ...asWords(before[key], after[key]),
        undo: (whole) => withMember(whole, key, before[key]),
      },
    ];
  });
}

/**
 * Everything that differs between two states of a document: values, modes, wiring, dials, the
 * scene and words; each with its place, and each restorable alone. Where a node stands on its board
 * counts for nothing. Groups are told by their ids, nodes by their ids on a board.
 */
export function listChanges(before: NetworkDocument, after: NetworkDocument): DocumentChange[] {
  const groups = Object.values(after.groups).flatMap((group) => {
    const old = own(before.groups, group.id);
    if (!old || old === group) return [];
    return [
      ...boardChanges(before, after, group.id, group.name),
      ...groupChanges(old, group, group.name),
    ];
  });
  return [...boardChanges(before, after, null, ''), ...groups, ...sceneChanges(before, after)];
}
