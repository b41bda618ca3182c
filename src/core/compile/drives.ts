import { present } from '../base/assert';
import type { Dial, Drive, GroupDefinition } from '../graph/document';
import type { Builder } from '../ir/builder';
import { pow } from '../ir/library/transcendental';
import type { F32 } from '../ir/types';
import { toScalar, toTriple } from './convert';
import type { Lowered } from './convert';
import type { BindingSource } from './uniforms';

/**
 * The group whose dials drive a value: where it stands, what its dials are at, and how a number of
 * the document becomes a uniform.
 */
export interface DriveScope {
  readonly group: GroupDefinition;
  readonly path: readonly string[];
  readonly inputs: ReadonlyMap<string, Lowered>;
  readonly bound: (kind: 'scalar', source: BindingSource) => Lowered;
}

const LAW_ORDER = { 'as is': 0, span: 0, blend: 0, power: 0, times: 1, lift: 2 } as const;

/** inner = designed × product of the times + sum of the lifts; the other laws stand alone. */
export function applyDrives(
  b: Builder,
  scope: DriveScope,
  node: string,
  input: string,
  designed: Lowered,
): Lowered {
  if (designed.kind === 'surface') return designed;
  const found = scope.group.dials.flatMap((dial) =>
    dial.drives
      .map((drive, k) => ({ dial, drive, k }))
      .filter(({ drive }) => drive.node === node && drive.input === input),
  );
  return [...found]
    .sort((x, y) => LAW_ORDER[x.drive.law] - LAW_ORDER[y.drive.law])
    .reduce<Lowered>(
      (value, { dial, drive, k }) => applyDrive(b, scope, value, dial, drive, k),
      designed,
    );
}

function applyDrive(
  b: Builder,
  scope: DriveScope,
  value: Lowered,
  dial: Dial,
  drive: Drive,
  k: number,
): Lowered {
  const setting = present(scope.inputs.get(dial.id), 'dial value');
  const field = (name: 'reach' | 'low' | 'high'): F32 =>
    toScalar(
      b,
      scope.bound('scalar', {
        from: 'drive',
        path: scope.path,
        dial: dial.id,
        drive: k,
        field: name,
      }),
    );
  const home = (): F32 =>
    toScalar(b, scope.bound('scalar', { from: 'home', path: scope.path, dial: dial.id }));
  if (value.kind === 'surface') return value;
  if (drive.law === 'as is')
    return value.kind === 'scalar'
      ? { ...value, lanes: [toScalar(b, setting)] }
      : { kind: value.kind, lanes: toTriple(setting) };
  const amount = toScalar(b, setting);
  const law = (lane: F32): F32 => {
    switch (drive.law) {
      case 'times':
        return b.emit('mul', 'f32', [lane, amount]);
      case 'lift':
        return b.add(lane, b.mul(b.sub(amount, b.f(1)), field('reach')));
      case 'span':
        return b.add(lane, b.mul(b.sub(amount, home()), b.sub(field('high'), field('low'))));
      case 'blend':
        return drive.low === undefined
          ? mix(b, lane, field('high'), amount)
          : blend(b, lane, { low: field('low'), high: field('high'), amount, home: home() });
      case 'power':
        return b.select(b.eq(amount, home()), lane, pow(b, lane, amount));
      case 'as is':
        return lane;
    }
  };
  if (value.kind === 'scalar') return { ...value, lanes: [law(value.lanes[0])] };
  return {
    kind: value.kind,
    lanes: [law(value.lanes[0]), law(value.lanes[1]), law(value.lanes[2])],
  };
}

const mix = (b: Builder, low: F32, high: F32, share: F32): F32 =>
  b.add(b.mul(low, b.sub(b.f(1), share)), b.mul(high, share));

/** How far, in shares of the span, a home may lie from where the designed value falls. */
const HOME_SLACK = 1e-3;

/**
 * From one end to the other; at home the designed value to the bit, which the mix would only come
 * close to. A home that stands elsewhere is no place of the designed value, and mixed like any.
 */
function blend(
  b: Builder,
  designed: F32,
  { low, high, amount, home }: Readonly<Record<'low' | 'high' | 'amount' | 'home', F32>>,
): F32 {
  const off = b.sub(mix(b, low, high, home), designed);
  const slack = b.mul(b.f(HOME_SLACK), b.abs(b.sub(high, low)));
  const atHome = b.select(b.eq(amount, home), designed, mix(b, low, high, amount));
  return b.select(b.le(b.abs(off), slack), atHome, mix(b, low, high, amount));
}
