import { isRecord } from '../../base/record';
import type { Migration } from '../migration';

const OPACITY: Readonly<Record<string, string>> = {
  none: 'opaque',
  holes: 'cut-off',
  blended: 'blend',
  dots: 'dithered',
};

/** `node.port` becomes its two parts; ids with a dot were not allowed then. */
function endOf(text: unknown, port: 'input' | 'output'): unknown {
  if (typeof text !== 'string') return text;
  const [node, id] = text.split('.');
  return id === undefined ? text : { node, [port]: id };
}

function migrateNetwork(network: unknown): unknown {
  if (!isRecord(network)) return network;
  const { strands } = network;
  if (!Array.isArray(strands)) return network;
  return {
    ...network,
    strands: strands.map((strand: unknown, k) =>
      isRecord(strand)
        ? {
            order: k,
            ...strand,
            from: endOf(strand['from'], 'output'),
            to: endOf(strand['to'], 'input'),
          }
        : strand,
    ),
  };
}

/** Version 0 wrote the ends of a strand as text, kept no order, and had other words for opacity. */
export const migrateFrom0: Migration = {
  from: 0,
  what: 'The ends of strands were text, and opacity modes had other names.',
  migrate: ({ transparency, ...document }) => {
    const groups = document['groups'];
    const mode = typeof transparency === 'string' ? OPACITY[transparency] : undefined;
    return {
      ...document,
      network: migrateNetwork(document['network']),
      groups: isRecord(groups)
        ? Object.fromEntries(
            Object.entries(groups).map(([id, group]) => [
              id,
              isRecord(group) ? { ...group, network: migrateNetwork(group['network']) } : group,
            ]),
          )
        : groups,
      ...(mode === undefined ? {} : { opacityMode: mode }),
    };
  },
};
