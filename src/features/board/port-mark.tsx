import type { PortKind } from '@/core/nodes/define';

/**
 * A port is cut like what it takes: one thread, three beside each other, three crossing, a band.
 */
export function PortMark({ kind }: { readonly kind: PortKind }) {
  const line = { stroke: 'currentColor', strokeWidth: 1.6, fill: 'none' } as const;
  return (
    <svg width="13" height="13" viewBox="0 0 13 13" className="text-[var(--thread)]" aria-hidden>
      <rect x="0.5" y="0.5" width="12" height="12" fill="var(--panel)" stroke="var(--seam)" />
      {(kind === 'scalar' || kind === 'scalars' || kind === 'fixed') && (
        <path d="M2 6.5H11" {...line} />
      )}
      {kind === 'scalars' && <path d="M6.5 2V11" {...line} />}
      {kind === 'vector' && <path d="M2 3.5H11M2 6.5H11M2 9.5H11" {...line} />}
      {(kind === 'colour' || kind === 'ramp') && (
        <path d="M2 3.5C5 3.5 8 9.5 11 9.5M2 9.5C5 9.5 8 3.5 11 3.5M2 6.5H11" {...line} />
      )}
      {kind === 'flex' && <path d="M2 6.5H7M7 6.5L11 3.5M7 6.5L11 9.5M7 6.5H11" {...line} />}
      {kind === 'surface' && (
        <path d="M2 3.5H11M2 9.5H11M4 2V11M6.5 2V11M9 2V11" {...line} strokeWidth={1.2} />
      )}
    </svg>
  );
}
