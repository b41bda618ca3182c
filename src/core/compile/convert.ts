import type { Conversion, ValueKind } from '../graph/document';
import type { Builder } from '../ir/builder';
import type { F32, Lanes3 } from '../ir/types';
import { luminance } from '../nodes/lanes';
import type { PortKind } from '../nodes/define';
import { quantityConversion } from '../nodes/quantities';
import type { Quantity } from '../nodes/quantities';
import type { SurfaceLanes } from '../nodes/parameters/lanes';

/** What an output gives: its kind and its lanes. */
export type Lowered = (
  | { readonly kind: 'scalar'; readonly lanes: readonly [F32]; readonly quantity?: Quantity }
  | { readonly kind: 'vector' | 'colour'; readonly lanes: Lanes3 }
  | { readonly kind: 'surface'; readonly surface: SurfaceLanes }
) & {
  /** Its source is off: whoever it was made for goes on without it. */
  readonly absent?: boolean;
};

/** A value as one lane: by `method`, else luminance of a colour and length of a vector. */
export function toScalar(b: Builder, value: Lowered, method?: Conversion): F32 {
  if (value.kind === 'surface') throw new Error('Invariant broken: a surface was read as a number');
  if (value.kind === 'scalar') return value.lanes[0];
  const [x, y, z] = value.lanes;
  switch (method ?? (value.kind === 'colour' ? 'luminance' : 'length')) {
    case 'luminance':
      return luminance(b, value.lanes);
    case 'average':
      return b.mul(b.add(b.add(x, y), z), b.f(1 / 3));
    case 'largest':
      return b.max(b.max(x, y), z);
    case 'first':
      return x;
    case 'second':
      return y;
    case 'third':
      return z;
    case 'length':
      return b.sqrt(b.dot(value.lanes, value.lanes));
  }
}

/** A value as three lanes; a number is repeated. */
export function toTriple(value: Lowered): Lanes3 {
  if (value.kind === 'surface') throw new Error('Invariant broken: a surface was read as a vector');
  return value.kind === 'scalar' ? [value.lanes[0], value.lanes[0], value.lanes[0]] : value.lanes;
}

/** The method a strand uses when it names none; null where nothing is converted. */
export function defaultConversion(from: ValueKind, to: PortKind): Conversion | 'repeat' | null {
  const narrow = to === 'scalar' || to === 'scalars';
  if (narrow && from === 'colour') return 'luminance';
  if (narrow && from === 'vector') return 'length';
  return from === 'scalar' && (to === 'vector' || to === 'colour') ? 'repeat' : null;
}

/** A number as another quantity, where there is a formula for that; otherwise as it is. */
export function asQuantity(b: Builder, value: Lowered, wanted: Quantity | undefined): Lowered {
  if (value.kind !== 'scalar' || !wanted || !value.quantity || value.quantity === wanted)
    return value;
  const conversion = quantityConversion(value.quantity, wanted);
  return conversion
    ? { kind: 'scalar', lanes: [conversion.convert(b, value.lanes[0])], quantity: wanted }
    : value;
}
