import { checkUnwired } from './check-unwired';
import type { Diagnostic } from '../../base/diagnostic';
import type { GroupDefinition, Network, NetworkDocument, NodeInstance } from '../../graph/document';
import { isImage } from '../../graph/document';
import { parseDocument } from '../../graph/schema';
import { findNodeDefinition } from '../catalogue';
import { isReadBothWays } from '../images';
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
    checkReading(report, { document, network, group, node, here });
  });
  checkStrands(report, { document, network, group, nodes, at });
  checkUnwired(report, document, network, at);
}

interface NodePlace {
  readonly document: NetworkDocument;
  readonly network: Network;
  readonly group: GroupDefinition | null;
  readonly node: NodeInstance;
  readonly here: DocumentPath;
}

/** One image serves either as colour or as data: what gets the other gets wrong numbers. */
function checkReading(
  report: CheckReport,
  { document, network, group, node, here }: NodePlace,
): void {
  const hasImage = Object.values(node.values).some((value) => isImage(value) && value.image !== '');
  if (!hasImage || !isReadBothWays(document, network, group, node)) return;
  report.add(
    'image.mixed-reading',
    here,
    `“${node.name ?? findNodeDefinition(node)?.title ?? node.id}” goes into a colour and into ` +
      'numbers: it is read as a colour, and the numbers arrive decoded from sRGB. Use a second ' +
      'image for the numbers, or say under “Read as” what it holds.',
    { node: node.id, severity: 'warning' },
  );
}
