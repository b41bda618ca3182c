import { present } from '../base/assert';
import type { ValueKind } from '../graph/document';
import type { F32, Lanes3 } from '../ir/types';
import type { AnyLowered, NodeDefinition } from '../nodes/define';
import type { SurfaceLanes } from '../nodes/parameters/lanes';
import type { Lowered } from './convert';

/** The outputs of a node as what they carry; `flexKind` is what its flexible inputs carry. */
export function wrapOutputs(
  definition: NodeDefinition,
  raw: Readonly<Record<string, AnyLowered>>,
  flexKind: 'scalar' | 'vector' | 'colour',
): Record<string, Lowered> {
  return Object.fromEntries(
    Object.entries(definition.outputs).map(([id, port]): [string, Lowered] => {
      const value = present(raw[id], `output ${id} of ${definition.id}`);
      if (port.kind === 'surface') return [id, { kind: 'surface', surface: value as SurfaceLanes }];
      if (port.kind === 'scalar')
        return [
          id,
          {
            kind: 'scalar',
            lanes: [value as F32],
            ...(port.quantity ? { quantity: port.quantity } : {}),
          },
        ];
      if (port.kind !== 'flex')
        return [id, { kind: port.kind as 'vector' | 'colour', lanes: value as unknown as Lanes3 }];
      const lanes = value as readonly F32[];
      if (lanes.length === 1) return [id, { kind: 'scalar', lanes: lanes as unknown as [F32] }];
      return [
        id,
        { kind: flexKind === 'scalar' ? 'vector' : flexKind, lanes: lanes as unknown as Lanes3 },
      ];
    }),
  );
}

/** The wider of two kinds: a colour, then a vector, then a number. */
export function widest(
  a: 'scalar' | 'vector' | 'colour',
  kind: ValueKind,
): 'scalar' | 'vector' | 'colour' {
  const rank = { scalar: 0, vector: 1, colour: 2, surface: 0 } as const;
  return rank[kind] > rank[a] && kind !== 'surface' ? kind : a;
}
