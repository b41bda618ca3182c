import { own } from '../base/own';
import { isChoice, isFlowing } from '../graph/document';
import type {
  Dial,
  GroupDefinition,
  InputValue,
  Network,
  NetworkDocument,
  NodeInstance,
} from '../graph/document';
import type { GroupId } from '../base/ids';
import { findGroupDefinition } from './catalogue';
import { fits } from './check/kinds';

type Groups = NetworkDocument['groups'];
/** Between the id of a group and the number of its settings; no id of a document holds it. */
const MARK = '#';

/** The group of a document that one with settings was made of. */
export const sourceGroup = (id: string): string => id.split(MARK)[0] ?? id;

/** What a card sets on a dial, or the dial's home. */
export function settingOf(node: NodeInstance, dial: Dial): InputValue {
  const typed = own(node.values, dial.id);
  return typed !== undefined && fits(dial.kind, typed) ? typed : dial.home;
}

const settingsOf = (group: GroupDefinition): readonly Dial[] =>
  group.dials.filter((dial) => !isFlowing(dial));
const withSettingsKnown = new WeakMap<Groups, boolean>();
/** Whether any group of a document has a dial whose value does not flow. */
function hasSettings(groups: Groups): boolean {
  let known = withSettingsKnown.get(groups);
  if (known === undefined) {
    known = Object.values(groups).some((group) => settingsOf(group).length > 0);
    withSettingsKnown.set(groups, known);
  }
  return known;
}

/** A node as a setting makes it: its option chosen, or its value replaced. */
export function withSetting(node: NodeInstance, input: string, setting: InputValue): NodeInstance {
  return isChoice(setting) && node.type !== 'group'
    ? { ...node, options: { ...node.options, [input]: setting.choice } }
    : { ...node, values: { ...node.values, [input]: setting } };
}

interface Settled {
  readonly group: GroupDefinition;
  readonly id: GroupId;
  readonly made: GroupDefinition;
  readonly card: NodeInstance;
}
const settledKnown = new WeakMap<NodeInstance, Settled>();
/** A card and its group with what its dials set written into the nodes inside. */
function settle(group: GroupDefinition, node: NodeInstance, id: GroupId): Settled {
  const known = settledKnown.get(node);
  if (known?.group === group && known.id === id) return known;
  const settings = settingsOf(group).map((dial) => ({ dial, value: settingOf(node, dial) }));
  const nodes = group.network.nodes.map((inner) =>
    settings.reduce(
      (changed, { dial, value }) =>
        dial.drives
          .filter((drive) => drive.node === inner.id)
          .reduce((each, { input }) => withSetting(each, input, value), changed),
      inner,
    ),
  );
  const made: GroupDefinition = {
    ...group,
    id,
    dials: group.dials.filter(isFlowing),
    network: { ...group.network, nodes },
  };
  const next = { group, id, made, card: { ...node, group: id } };
  settledKnown.set(node, next);
  return next;
}

/** Opens the settings of all cards of a board, and of the boards inside them. */
class Settling {
  readonly groups: Record<GroupId, GroupDefinition>;
  private readonly done = new Set<string>();

  constructor(private readonly document: NetworkDocument) {
    this.groups = { ...document.groups };
  }

  /** @param owner the group whose board it is; empty for the material's own */
  board(network: Network, owner: string): Network {
    let isSame = true;
    const nodes = network.nodes.map((node) => {
      const next = this.card(node, owner);
      isSame &&= next === node;
      return next;
    });
    return isSame ? network : { ...network, nodes };
  }

  private card(node: NodeInstance, owner: string): NodeInstance {
    const group = findGroupDefinition(this.document, node);
    if (!group) return node;
    if (settingsOf(group).length === 0) {
      this.open(group);
      return node;
    }
    const { made, card } = settle(group, node, `${group.id}${MARK}${owner}/${node.id}` as GroupId);
    this.open(made);
    return card;
  }

  private open(group: GroupDefinition): void {
    if (this.done.has(group.id)) return;
    this.done.add(group.id);
    const network = this.board(group.network, group.id);
    this.groups[group.id] = network === group.network ? group : { ...group, network };
  }
}

const openedKnown = new WeakMap<NetworkDocument, NetworkDocument>();
/**
 * A document in which every card stands for a group of its own settings: choices, ramps, curves,
 * images and formulas of dials are written into the nodes they drive. Paths of nodes stay as they
 * were; a document without such dials stays the same object.
 */
export function openSettings(document: NetworkDocument): NetworkDocument {
  if (!hasSettings(document.groups)) return document;
  const known = openedKnown.get(document);
  if (known) return known;
  const settling = new Settling(document);
  const network = settling.board(document.network, '');
  const opened = { ...document, network, groups: settling.groups };
  openedKnown.set(document, opened);
  openedKnown.set(opened, opened);
  return opened;
}
