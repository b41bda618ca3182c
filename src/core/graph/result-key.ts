import { escapeSigns, unescapeSigns } from '../base/escape';
import type { NodeId, PortId, ResultKey } from '../base/ids';

/**
 * A result of a network: what leaves an output of a node, what that was before the node's own limit
 * to 0–1, or what arrives at an input. The path leads from the material's board through group nodes
 * to the node itself.
 */
export interface ResultPlace {
  readonly path: readonly NodeId[];
  readonly end: 'output' | 'input' | 'unlimited';
  readonly port: PortId;
}

const SIGNS = ':';
const ENDS = { ':': 'output', '<': 'input', '<=': 'unlimited' } as const;
const escaped = (id: string): string => escapeSigns(id, SIGNS);
const place = (path: readonly NodeId[]): string => path.map(escaped).join('/');

/** The key of what leaves an output: `path/to/node:output`. A `:` within an id is written `%3a`. */
export const outputKey = (path: readonly NodeId[], output: PortId): ResultKey =>
  `${place(path)}:${escaped(output)}`;
/** The key of what arrives at an input: `path/to/node<input`. */
export const arrivingKey = (path: readonly NodeId[], input: PortId): ResultKey =>
  `${place(path)}<${escaped(input)}`;
/** The key of an output before the node's own limit to 0–1: `path/to/node<=output`. */
export const unlimitedKey = (path: readonly NodeId[], output: PortId): ResultKey =>
  `${place(path)}<=${escaped(output)}`;

/** Whether a key names an output, not what arrives at an input. */
export const isOutputKey = (key: ResultKey): boolean => key.includes(':');

/** @throws Error when the text is no key that this module makes */
export function parseResultKey(key: ResultKey): ResultPlace {
  const [, path = '', sign, port] = /^([^:<]+)(<=|[:<])([^:<]*)$/.exec(key) ?? [];
  if (port === undefined) throw new Error(`Invariant broken: no result is called ${key}`);
  return {
    path: path.split('/').map(unescapeSigns),
    end: ENDS[sign as keyof typeof ENDS],
    port: unescapeSigns(port),
  };
}

/** A key as a person types and reads it, with the ids as they are. */
export const readableKey = (key: ResultKey): string => unescapeSigns(key);
