import type { Diagnostic } from '../../base/diagnostic';
import type { GroupDefinition, Network, NetworkDocument, NodeInstance } from '../../graph/document';
import { parseDocument } from '../../graph/schema';
import { checkGroup, checkNesting } from './check-group';
import { checkNode } from './check-node';
import { checkStrands } from './check-strands';
import { CheckReport } from './report';
import type { DocumentPath } from './report';

/** Checks anything as a document: first its shape, then all it refers to. Never throws. */
export function checkDocument(raw: unknown): {
  document: NetworkDocument | null;
  diagnostics: readonly Diagnostic[];
} {
  const parsed = parseDocument(raw);
  if (!parsed.document) return parsed;
  return { document: parsed.document, diagnostics: checkReferences(parsed.document) };
}

/**
 * Findings on a well-shaped document: unknown nodes, broken strands, circles, groups within
 * themselves, wrong values. At most 200.
 */
export function checkReferences(document: NetworkDocument): readonly Diagnostic[] {
  const report = new CheckReport();
  checkNetwork(report, document, document.network, null, ['network']);
  for (const [id, group] of Object.entries(document.groups)) {
    checkNetwork(report, document, group.network, group, ['groups', id, 'network']);
    checkGroup(report, document, group, ['groups', id]);
  }
  checkNesting(report, document);
  return report.findings;
}

function checkNetwork(
  report: CheckReport,
  document: NetworkDocument,
  network: Network,
  group: GroupDefinition | null,
  at: DocumentPath,
): void {
  const nodes = new Map<string, NodeInstance>();
  network.nodes.forEach((node, k) => {
    const here = [...at, 'nodes', k];
    if (nodes.has(node.id))
      report.add('node.duplicate-id', [...here, 'id'], `Two nodes share the id ${node.id}.`, {
        node: node.id,
      });
    nodes.set(node.id, node);
    checkNode(report, document, node, here);
  });
  checkStrands(report, { document, network, group, nodes, at });
}
