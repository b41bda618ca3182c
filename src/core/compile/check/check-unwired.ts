import { INPUT_EDGE } from '../../graph/document';
import type { GroupDefinition, Network, NetworkDocument } from '../../graph/document';
import { findGroupDefinition, findNodeDefinition, getNodeTitle, inputPort } from '../catalogue';
import { findKeptValue } from '../neutral';
import type { KeptValue } from '../neutral';
import type { CheckReport, DocumentPath } from './report';

/** What a vector counts as inside a group while nothing is wired to it and nothing is declared. */
export function silentMeaning({ network }: GroupDefinition, port: string): string | null {
  for (const { from, to } of network.strands) {
    if (from.node !== INPUT_EDGE || from.output !== port) continue;
    const node = network.nodes.find(({ id }) => id === to.node);
    const usual = node && inputPort(node, to.input)?.default;
    if (typeof usual === 'string') return usual;
  }
  return null;
}

const titleOf = ({ node, input }: KeptValue): string => {
  const title = node.name ?? findNodeDefinition(node)?.title ?? node.type;
  return `${inputPort(node, input)?.title ?? input} of “${title}”`;
};

/** Cards of groups with an input that counts as coordinates without anybody having said so. */
export function checkUnwired(
  report: CheckReport,
  document: NetworkDocument,
  network: Network,
  at: DocumentPath,
): void {
  network.nodes.forEach((node, k) => {
    const group = findGroupDefinition(document, node);
    for (const port of group?.inputs ?? []) {
      const isWired = network.strands.some(({ to }) => to.node === node.id && to.input === port.id);
      if (!group || isWired || port.fallback !== undefined) continue;
      if (port.unwired === 'neutral') {
        const kept = findKeptValue(document, group, port.id);
        if (kept)
          report.add(
            'group.unwired',
            [...at, 'nodes', k],
            `${port.name} of “${getNodeTitle(document, node)}” is not wired and is to ` +
              `be neutral, but ${titleOf(kept)} knows no value that changes nothing and ` +
              'keeps its own. Wire it, or say on the left edge of the group what it is unwired.',
            { node: node.id, severity: 'warning' },
          );
      }
      if (port.unwired) continue;
      const meaning = port.kind === 'vector' ? silentMeaning(group, port.id) : null;
      if (meaning === null) continue;
      report.add(
        'group.unwired',
        [...at, 'nodes', k],
        `${port.name} of “${getNodeTitle(document, node)}” is not wired and counts as the ` +
          `${meaning}. Wire it, or say on the left edge of the group what it is unwired.`,
        { node: node.id, severity: 'warning' },
      );
    }
  });
}
