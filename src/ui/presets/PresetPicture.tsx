import { curveValue } from '@/core/compile/ramp-rows';
import { isCurve, isRamp } from '@/core/graph/document';
import type { CurveValue } from '@/core/graph/document';
import type { RampModes } from '@/core/nodes/ramp-table';
import type { PresetValue } from '@/core/presets/kinds';
import { toHex } from '@/core/surface/colour-science';
import { rampGradient } from '../ramp-gradient';
import { Swatch } from '../Swatch';

const PLAIN: RampModes = { layout: 'placed', blend: 'light' };

interface Props {
  readonly value: PresetValue | null;
  readonly swatchHash?: string | null;
  readonly name: string;
  readonly modes?: Partial<RampModes>;
  readonly className?: string;
}

/** What a preset looks like: its ramp, colours or curve, or its picture. */
export function PresetPicture({ value, swatchHash = null, name, modes, className = '' }: Props) {
  if (isRamp(value))
    return (
      <span
        className={`block ${className}`}
        style={{ background: rampGradient(value, { ...PLAIN, ...modes }) }}
      />
    );
  if (isCurve(value)) return <CurveLine curve={value} className={className} />;
  if (value && 'colours' in value)
    return (
      <span className={`flex ${className}`}>
        {value.colours.map((colour, k) => (
          <span
            key={`${String(k)} ${colour.join()}`}
            className="min-w-0 flex-1"
            style={{ background: toHex(colour) }}
          />
        ))}
      </span>
    );
  if (swatchHash)
    return <Swatch hash={swatchHash} label={name} className={`object-contain ${className}`} />;
  return (
    <span className={`grid place-items-center bg-stage text-[11px] text-soft ${className}`}>
      no picture yet
    </span>
  );
}

const SIZE = 64;

function CurveLine({
  curve,
  className,
}: {
  readonly curve: CurveValue;
  readonly className: string;
}) {
  const points = Array.from(
    { length: SIZE + 1 },
    (_, k) => `${String(k)},${((1 - curveValue(curve, k / SIZE)) * SIZE).toFixed(2)}`,
  ).join(' ');
  return (
    <svg
      viewBox={`-2 -2 ${String(SIZE + 4)} ${String(SIZE + 4)}`}
      preserveAspectRatio="none"
      aria-hidden
      className={`bg-ground ${className}`}
    >
      <polyline
        points={points}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.5}
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
