import { LIMITS } from '../graph/limits';
import type { NetworkDocument } from '../graph/document';

/**
 * Which limit of a document is passed, in words; null while it can be saved. An edit that would
 * pass one is not made: what cannot be saved would be lost.
 */
export function passedLimit({ network, groups }: NetworkDocument): string | null {
  const definitions = Object.values(groups);
  if (definitions.length > LIMITS.groups)
    return `A material holds at most ${LIMITS.groups.toLocaleString('en')} groups.`;
  for (const { nodes, strands } of [network, ...definitions.map((group) => group.network)]) {
    if (nodes.length > LIMITS.nodes)
      return `A board holds at most ${LIMITS.nodes.toLocaleString('en')} nodes.`;
    if (strands.length > LIMITS.strands)
      return `A board holds at most ${LIMITS.strands.toLocaleString('en')} strands.`;
  }
  return null;
}
