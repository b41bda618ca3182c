'use client';
import type { Statistics } from '@/core/evaluate/statistics';

const figure = (value: number): string => (Number.isFinite(value) ? value.toPrecision(4) : '–');
const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;

/** The outline of all bars, one unit wide each and as high as the root of their share. */
function stepsOf(histogram: Uint32Array): string {
  const tallest = Math.max(1, ...histogram);
  const tops = [...histogram].map(
    (count, k) => `V${(1 - Math.sqrt(count / tallest)).toFixed(3)}H${String(k + 1)}`,
  );
  return `M0 1${tops.join('')}V1Z`;
}

/** How the values of an output are spread over the surface (4,096 points). */
export function Distribution({
  statistics,
  histogram,
}: {
  readonly statistics: Statistics;
  readonly histogram: Uint32Array | null;
}) {
  return (
    <div className="mt-2">
      {histogram ? (
        <svg
          width="146"
          height="30"
          viewBox={`0 0 ${String(histogram.length)} 1`}
          preserveAspectRatio="none"
          role="img"
          aria-label="Histogram of the values, from 0 to 1"
          className="border-b border-seam"
        >
          <path d={stepsOf(histogram)} fill="var(--ink-soft)" />
        </svg>
      ) : null}
      <dl className="figures mt-1 grid grid-cols-[auto_1fr] gap-x-2 text-[10.5px] text-soft">
        <dt>least</dt>
        <dd className="text-right">{figure(statistics.minimum)}</dd>
        <dt>mean</dt>
        <dd className="text-right">{figure(statistics.mean)}</dd>
        <dt>most</dt>
        <dd className="text-right">{figure(statistics.maximum)}</dd>
        {statistics.below > 0 ? (
          <>
            <dt className="text-madder">below 0</dt>
            <dd className="text-right text-madder">{percent(statistics.below)}</dd>
          </>
        ) : null}
        {statistics.above > 0 ? (
          <>
            <dt className="text-madder">above 1</dt>
            <dd className="text-right text-madder">{percent(statistics.above)}</dd>
          </>
        ) : null}
      </dl>
    </div>
  );
}
