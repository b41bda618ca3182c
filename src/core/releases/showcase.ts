import { OUTPUT_EDGE, SURFACE_OUTPUT } from '../graph/document';
import type { NetworkDocument, Strand } from '../graph/document';
import { ALONE, cardAlone, plainNode } from './card-alone';
import type { ReleasedGroups } from './release-groups';

/** The card of the group that a document of `showcase` shows. */
export const SHOWN = ALONE;

/**
 * A document that shows a group at home: its surface, or its first value as the colour of a plain
 * one.
 */
export function showcase(groups: ReleasedGroups): NetworkDocument {
  const group = groups.definitions[groups.root];
  const output =
    group?.outputs.find((port) => port.kind === 'surface') ??
    group?.outputs.find((port) => port.kind === 'colour') ??
    group?.outputs[0];
  const document = cardAlone(groups);
  if (!output) return document;
  const strand = (id: string, from: Strand['from'], to: Strand['to']): Strand => ({
    id,
    from,
    to,
    order: 0,
  });
  const end = { node: OUTPUT_EDGE, input: SURFACE_OUTPUT };
  const start = { node: SHOWN, output: output.id };
  const { network } = document;
  if (output.kind === 'surface')
    return { ...document, network: { ...network, strands: [strand('a', start, end)] } };
  const paint = plainNode('paint', 'surface.surface', { values: { roughness: 0.6 } });
  return {
    ...document,
    network: {
      ...network,
      nodes: [...network.nodes, paint],
      strands: [
        strand('a', start, { node: 'paint', input: 'baseColour' }),
        strand('b', { node: 'paint', output: 'surface' }, end),
      ],
    },
  };
}
