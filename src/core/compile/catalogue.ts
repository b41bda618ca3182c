import { NODES } from '../nodes/registry.generated';
import type { InputPort, NodeDefinition, PortKind } from '../nodes/define';
import type { Dial, GroupDefinition, NetworkDocument, NodeInstance, ValueKind } from '../graph/document';

const BY_ID = new Map(NODES.map((definition) => [definition.id, definition]));

/** The catalogue's definition of a node type; undefined for groups and unknown types. */
export const findDefinition = (type: string): NodeDefinition | undefined => BY_ID.get(type);
export const listDefinitions = (): readonly NodeDefinition[] => NODES;

/** An input as the board and the checks see it. */
export interface InputView {
  readonly id: string;
  readonly title: string;
  readonly kind: PortKind;
  readonly port: InputPort | null;
  readonly dial: Dial | null;
}
export interface OutputView { readonly id: string; readonly title: string; readonly kind: PortKind }
export interface PortsView { readonly inputs: readonly InputView[]; readonly outputs: readonly OutputView[] }

/** The group a node stands for, if it is one and the definition is there. */
export function groupOf(document: NetworkDocument, node: NodeInstance): GroupDefinition | undefined {
  return node.type === 'group' && node.group !== undefined ? document.groups[node.group] : undefined;
}

/** The ports of a node; null when its type or group is unknown. */
export function describePorts(document: NetworkDocument, node: NodeInstance): PortsView | null {
  const group = groupOf(document, node);
  if (group) return groupPorts(group);
  const definition = findDefinition(node.type);
  if (!definition) return null;
  return {
    inputs: Object.entries(definition.inputs).map(([id, port]) => ({ id, title: port.title, kind: port.kind, port, dial: null })),
    outputs: Object.entries(definition.outputs).map(([id, port]) => ({ id, title: port.title, kind: port.kind })),
  };
}

function groupPorts(group: GroupDefinition): PortsView {
  return {
    inputs: [
      ...group.inputs.map((port) => ({ id: port.id, title: port.name, kind: port.kind, port: null, dial: null })),
      ...group.dials.map((dial) => ({ id: dial.id, title: dial.name, kind: dial.kind, port: null, dial })),
    ],
    outputs: group.outputs.map((port) => ({ id: port.id, title: port.name, kind: port.kind })),
  };
}

/** Whether what leaves an output may enter an input. Surfaces never convert; some inputs are typed only. */
export function mayConnect(from: PortKind | ValueKind, to: PortKind | ValueKind): boolean {
  if (to === 'fixed' || to === 'ramp' || to === 'formula') return false;
  return (from === 'surface') === (to === 'surface');
}

/** Whether an input takes several strands. */
export const takesMany = (kind: PortKind): boolean => kind === 'scalars';

/** Inputs that mean nothing under the node's present options. */
export function idleInputs(node: NodeInstance): readonly string[] {
  const definition = findDefinition(node.type);
  return definition ? definition.idle(chosenOptions(definition, node)) : [];
}

/** The node's options, with defaults for those it does not state. */
export function chosenOptions(definition: NodeDefinition, node: NodeInstance): Record<string, string> {
  return Object.fromEntries(Object.entries(definition.options).map(([id, entry]) => [id, node.options[id] ?? entry.default]));
}

/** Something a search offers: a node, or a node with one of its choices made. */
export interface SearchHit { readonly key: string; readonly title: string; readonly help: string; readonly definition: NodeDefinition; readonly options: Readonly<Record<string, string>> }

const HITS: readonly { readonly hit: SearchHit; readonly words: readonly string[] }[] = NODES.flatMap((definition) => {
  const plain = { hit: { key: definition.id, title: definition.title, help: definition.help, definition, options: {} }, words: definition.synonyms.map((word) => word.toLowerCase()) };
  const { presets } = definition;
  const choices = presets ? definition.options[presets.option]?.choices ?? [] : [];
  return [plain, ...choices.map((choice) => ({
    hit: { key: `${definition.id} ${choice.value}`, title: choice.title, help: choice.help, definition, options: { [presets?.option ?? '']: choice.value } },
    words: presets?.synonyms[choice.value] ?? [],
  }))];
});

/** Finds nodes by part of their title, of a synonym, or by family; best first. Without a query: every node. */
export function searchNodes(query: string): readonly SearchHit[] {
  const wanted = query.trim().toLowerCase();
  if (!wanted) return HITS.map(({ hit }) => hit).filter((hit) => Object.keys(hit.options).length === 0);
  return HITS.map(({ hit, words }) => ({ hit, rank: rankOf(hit, words, wanted) })).filter(({ rank }) => rank > 0)
    .sort((a, b) => b.rank - a.rank || a.hit.title.localeCompare(b.hit.title)).map(({ hit }) => hit);
}

function rankOf(hit: SearchHit, words: readonly string[], wanted: string): number {
  const title = hit.title.toLowerCase();
  if (title === wanted) return 7;
  if (title.startsWith(wanted)) return 6;
  if (words.includes(wanted)) return 5;
  if (title.includes(wanted)) return 4;
  if (words.some((word) => word.startsWith(wanted))) return 3;
  if (words.some((word) => word.includes(wanted))) return 2;
  return hit.definition.family.startsWith(wanted) ? 1 : 0;
}
