import type { Builder } from './builder';
import type { F32, I32, Value } from './types';

/** The sum of two derivatives; null is zero. */
export function plus(b: Builder, x: F32 | null, y: F32 | null): F32 | null {
  return x && y ? b.add(x, y) : (x ?? y);
}

/** The derivative of one plain operation along one direction. */
export function derivative(
  b: Builder,
  value: Value,
  self: F32,
  args: readonly F32[],
  tangent: (k: number) => F32 | null,
): F32 | null {
  const [x, y] = args as [F32, F32];
  const zero = b.f(0);
  switch (value.operation) {
    case 'add':
      return plus(b, tangent(0), tangent(1));
    case 'sub': {
      const t = tangent(1);
      return plus(b, tangent(0), t && b.neg(t));
    }
    case 'neg': {
      const t = tangent(0);
      return t && b.neg(t);
    }
    case 'mul': {
      const [s, t] = [tangent(0), tangent(1)];
      return plus(b, s && b.mul(s, y), t && b.mul(x, t));
    }
    case 'div': {
      const [s, t] = [tangent(0), tangent(1)];
      const top = plus(b, s, t && b.neg(b.mul(self, t)));
      return top && b.div(top, y);
    }
    case 'abs': {
      const t = tangent(0);
      return t && b.select(b.lt(x, zero), b.neg(t), t);
    }
    case 'sqrt': {
      const t = tangent(0);
      return t && b.select(b.lt(zero, self), b.div(b.mul(t, b.f(0.5)), self), zero);
    }
    case 'flipSign': {
      const t = tangent(0);
      return t && b.flipSign(t, args[1] as unknown as I32);
    }
    case 'min':
      return choose(b, b.lt(y, x), tangent(1), tangent(0));
    case 'max':
      return choose(b, b.lt(x, y), tangent(1), tangent(0));
    case 'select':
      return choose(b, args[0] as unknown as Value<'bool'>, tangent(1), tangent(2));
    default:
      return null;
  }
}

function choose(b: Builder, condition: Value<'bool'>, yes: F32 | null, no: F32 | null): F32 | null {
  return yes || no ? b.select(condition, yes ?? b.f(0), no ?? b.f(0)) : null;
}
