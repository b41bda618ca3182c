'use client';
import { useCompany } from '@/state/revisions';

const initials = (name: string): string =>
  name
    .split(/\s+/)
    .slice(0, 2)
    .map((word) => word.charAt(0))
    .join('');

/** Who else has the material open, and whose newest revision one has not got. */
export function CompanyNote() {
  const { others, newer } = useCompany();
  if (others.length === 0 && !newer) return null;
  return (
    <span role="status" className="flex shrink-0 gap-1 text-[11px]" data-testid="company">
      {others.map(({ name, revision }) => (
        <span
          key={name}
          className="grid h-[20px] min-w-[20px] place-items-center border border-seam px-0.5"
          title={`${name} has it open, at revision ${String(revision)}`}
        >
          <span aria-hidden>{initials(name)}</span>
          <span className="sr-only">{name} has it open, too</span>
        </span>
      ))}
      {newer ? (
        <span
          className="border border-weld px-1 leading-[18px]"
          title={`${newer.by} saved revision ${String(newer.revision)}; yours is older`}
        >
          newer: <span className="figures">{newer.revision}</span> by {newer.by}
        </span>
      ) : null}
    </span>
  );
}
