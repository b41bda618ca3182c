'use client';
import { EdgeLabelRenderer } from '@xyflow/react';
import type { Edge, EdgeProps } from '@xyflow/react';
import type { ValueKind } from '@/core/graph/document';
import { strandShareKey } from '@/core/explain/branch-shares';
import { useProbe, useView } from '@/state/use-stores';
import { sampleStrand, threadPath } from './strand-path';
import { useDetour } from './use-detour';

export type StrandEdgeType = Edge<
  {
    kind: ValueKind;
    bends: readonly (readonly [number, number])[];
    chip: string | null;
    warns: boolean;
    /** What is wrong with it. */
    fault?: string;
    chosen: boolean;
  },
  'strand'
>;

/**
 * How a strand looks tells what it carries: one thread, three beside each other, three crossing, or
 * a woven band.
 */
export function StrandEdge({
  id,
  sourceX,
  sourceY,
  targetX,
  targetY,
  data,
}: EdgeProps<StrandEdgeType>) {
  const length = Math.hypot(targetX - sourceX, targetY - sourceY);
  const [from, to] = [[sourceX, sourceY] as const, [targetX, targetY] as const];
  const detour = useDetour(id, from, to);
  const bends = data?.bends.length ? data.bends : detour;
  const points = sampleStrand([from, ...bends, to]);
  const kind = data?.kind ?? 'scalar';
  const colour = data?.chosen ? 'var(--weld)' : data?.fault ? 'var(--madder)' : 'var(--thread)';
  const centre = threadPath(points, () => 0);
  const middle = points[Math.floor(points.length / 2)] ?? [0, 0, 0, 0];
  return (
    <>
      <Threads kind={kind} points={points} length={length} colour={colour} />
      <path
        d={centre}
        stroke="transparent"
        strokeWidth={16}
        fill="none"
        className="react-flow__edge-interaction"
        data-strand={id}
      />
      <StrandValue id={id} at={middle} />
      {data?.chip ? (
        <EdgeLabelRenderer>
          <span
            title={data.fault}
            {...(data.fault ? { 'data-testid': `fault-${id}` } : {})}
            className={
              'pointer-events-none absolute rounded-[2px] border border-line bg-panel px-1 ' +
              `text-[10px] ${data.warns ? 'text-madder' : 'text-soft'}`
            }
            style={{
              transform:
                `translate(-50%, -50%) translate(${String(middle[0])}px, ` +
                `${String(middle[1])}px)`,
            }}
          >
            {data.chip}
          </span>
        </EdgeLabelRenderer>
      ) : null}
    </>
  );
}

/** What passes a strand at the point that is explained; nothing while none is. */
function StrandValue({ id, at }: { readonly id: string; readonly at: readonly number[] }) {
  const path = useView((state) => state.path);
  const words = useProbe((state) =>
    state.strandWords.size === 0 ? undefined : state.strandWords.get(strandShareKey(path, id)),
  );
  if (words === undefined) return null;
  return (
    <EdgeLabelRenderer>
      <span
        data-testid={`passes-${id}`}
        className={
          'figures pointer-events-none absolute z-10 rounded-[2px] border border-weld bg-panel ' +
          'px-1 text-[10px] whitespace-nowrap text-ink'
        }
        style={{
          transform:
            `translate(-50%, -140%) translate(${String(at[0] ?? 0)}px, ` +
            `${String(at[1] ?? 0)}px)`,
        }}
      >
        {words}
      </span>
    </EdgeLabelRenderer>
  );
}

type Points = ReturnType<typeof sampleStrand>;
/** How far each thread lies from the middle, along a strand: side by side, or crossing. */
function threadOffsets(kind: ValueKind, length: number): readonly ((share: number) => number)[] {
  const turns = Math.max(2, Math.round(length / 38));
  if (kind === 'vector') return [-2.6, 0, 2.6].map((d) => () => d);
  if (kind === 'colour')
    return [0, 1, 2].map(
      (k) => (share: number) => 2.8 * Math.sin((share * turns + k / 3) * 2 * Math.PI),
    );
  return [() => 0];
}

function Threads({
  kind,
  points,
  length,
  colour,
}: {
  readonly kind: ValueKind;
  readonly points: Points;
  readonly length: number;
  readonly colour: string;
}) {
  if (kind !== 'surface')
    return threadOffsets(kind, length).map((offset, k) => (
      <path
        key={k}
        d={threadPath(points, offset)}
        stroke={colour}
        strokeWidth={kind === 'scalar' ? 1.7 : 1.1}
        fill="none"
      />
    ));
  const centre = threadPath(points, () => 0);
  return (
    <>
      <path d={centre} stroke="var(--line)" strokeWidth={9} fill="none" />
      <path d={centre} stroke={colour} strokeWidth={7} strokeDasharray="2 1.6" fill="none" />
      {[-3.6, 3.6].map((d) => (
        <path
          key={d}
          d={threadPath(points, () => d)}
          stroke={colour}
          strokeWidth={1.1}
          fill="none"
        />
      ))}
    </>
  );
}
