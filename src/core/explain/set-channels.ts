import type { NodeId } from '../base/ids';
import { findNodeDefinition } from '../compile/catalogue';
import { findNode } from '../compile/uniforms';
import { boardAt, getNetwork } from '../edit/board';
import type { NetworkDocument } from '../graph/document';
import { SURFACE_ENTRIES, SURFACE_INPUTS, laneNames } from '../nodes/surface-parameters';

/**
 * The lanes of a surface that somebody set at a node that makes one out of all parameters: by a
 * strand, a typed value or a dial. Null for a node that passes on surfaces it is given, `of its
 * own` for one that makes a surface in another way.
 */
export function setLanes(
  document: NetworkDocument,
  path: readonly NodeId[],
): ReadonlySet<string> | 'of its own' | null {
  const node = findNode(document, path);
  const definition = node && findNodeDefinition(node);
  if (!definition) return null;
  if (!Object.keys(SURFACE_INPUTS).every((input) => Object.hasOwn(definition.inputs, input))) {
    const kinds = Object.values(definition.inputs).map(({ kind }) => kind);
    return kinds.some((kind) => kind.startsWith('surface')) ? null : 'of its own';
  }
  const board = boardAt(document, path.slice(0, -1));
  const { strands } = getNetwork(document, board);
  const drives =
    board === null ? [] : (document.groups[board]?.dials ?? []).flatMap((d) => d.drives);
  const isSet = (input: string): boolean =>
    strands.some(({ to }) => to.node === node.id && to.input === input) ||
    drives.some((drive) => drive.node === node.id && drive.input === input) ||
    (Object.hasOwn(node.values, input) &&
      JSON.stringify(node.values[input]) !== JSON.stringify(SURFACE_INPUTS[input]?.default));
  return new Set(
    SURFACE_ENTRIES.flatMap(([name, { inputs }]) =>
      Object.keys(inputs).some(isSet) ? laneNames(name) : [],
    ),
  );
}
