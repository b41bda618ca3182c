import type { Diagnostic } from '../base/diagnostic';
import type {
  Drive,
  GroupDefinition,
  InputValue,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
} from '../graph/document';
import { asDocument } from '../graph/migrations';
import { parseDocument, parseDocumentText } from '../graph/schema';
import type { ParsedDocument } from '../graph/schema';
import type { NodeDefinition, NodeUpgrade } from '../nodes/define';
import { findDefinition } from './catalogue';

type Find = (type: string) => NodeDefinition | undefined;

/** The steps from a node's version up to one that is computed; none where it is, or is unknown. */
function stepsFor(node: NodeInstance, find: Find): readonly NodeUpgrade[] {
  const definition = find(node.type);
  const steps: NodeUpgrade[] = [];
  for (let version = node.version; definition && version < definition.version; version++) {
    const former = definition.former?.[version];
    if (!former || 'kept' in former) return steps;
    steps.push(former);
  }
  return steps;
}

/** The name an input has after some steps. */
const renamed = (input: string, steps: readonly NodeUpgrade[]): string =>
  steps.reduce((name, { inputs = {} }) => inputs[name] ?? name, input);

function upgradeNode(node: NodeInstance, steps: readonly NodeUpgrade[]): NodeInstance {
  let { values, options } = node;
  for (const { inputs = {}, change } of steps) {
    values = Object.fromEntries(
      Object.entries(values).map(([name, value]) => [inputs[name] ?? name, value]),
    );
    const changed = change?.({ values, options });
    if (changed) {
      values = changed.values as Readonly<Record<string, InputValue>>;
      options = changed.options;
    }
  }
  return { ...node, version: node.version + steps.length, values, options };
}

function upgradeNetwork(
  network: Network,
  steps: ReadonlyMap<string, readonly NodeUpgrade[]>,
): Network {
  const strand = (each: Strand): Strand => {
    const of = steps.get(each.to.node);
    return of ? { ...each, to: { ...each.to, input: renamed(each.to.input, of) } } : each;
  };
  return {
    ...network,
    nodes: network.nodes.map((node) => upgradeNode(node, steps.get(node.id) ?? [])),
    strands: network.strands.map(strand),
  };
}

const stepsIn = (network: Network, find: Find): ReadonlyMap<string, readonly NodeUpgrade[]> =>
  new Map(
    network.nodes
      .map((node) => [node.id, stepsFor(node, find)] as const)
      .filter(([, steps]) => steps.length > 0),
  );

function upgradeGroup(group: GroupDefinition, find: Find): GroupDefinition {
  const steps = stepsIn(group.network, find);
  if (steps.size === 0) return group;
  const drive = (each: Drive): Drive => {
    const of = steps.get(each.node);
    return of ? { ...each, input: renamed(each.input, of) } : each;
  };
  return {
    ...group,
    network: upgradeNetwork(group.network, steps),
    dials: group.dials.map((dial) => ({ ...dial, drives: dial.drives.map(drive) })),
  };
}

/**
 * Brings every node of an earlier version to one that is computed, in the material's network and in
 * all groups; the same document where there is nothing to do. The values at every point stay.
 * @param find the catalogue; another one is for tests
 */
export function upgradeNodes(
  document: NetworkDocument,
  find: Find = findDefinition,
): NetworkDocument {
  const steps = stepsIn(document.network, find);
  const groups = Object.entries(document.groups).map(
    ([id, group]) => [id, upgradeGroup(group, find)] as const,
  );
  const isSame = steps.size === 0 && groups.every(([id, group]) => group === document.groups[id]);
  if (isSame) return document;
  return {
    ...document,
    network: upgradeNetwork(document.network, steps),
    groups: Object.fromEntries(groups),
  };
}

const upgraded = (parsed: ParsedDocument): ParsedDocument =>
  parsed.document ? { ...parsed, document: upgradeNodes(parsed.document) } : parsed;

/**
 * Reads what was stored by any release up to this one as a document of this release. Every edge
 * where a stored document comes in reads it by this. Never throws.
 */
export const readStored = (raw: unknown): ParsedDocument => upgraded(parseDocument(raw));

/** As `readStored`, of JSON text. */
export const readStoredText = (text: string): ParsedDocument => upgraded(parseDocumentText(text));

/** Reads the groups of a release. @param version that of the document they were published from */
export function readStoredGroups(
  groups: unknown,
  version: number,
): {
  readonly groups: Readonly<Record<string, GroupDefinition>> | null;
  readonly diagnostics: readonly Diagnostic[];
} {
  const { document, diagnostics } = readStored(asDocument(groups, version));
  return { groups: document?.groups ?? null, diagnostics };
}
