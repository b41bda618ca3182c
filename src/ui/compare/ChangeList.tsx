/** A change between two states, with how much of their difference it accounts for. */
export interface ListedChange {
  readonly kind: string;
  readonly place: string;
  readonly what: string;
  readonly before: string;
  readonly after: string;
  /** 1 for all of the difference; null where it was not measured. */
  readonly share: number | null;
}

/** Shares below this are said to be nothing. */
const NOTHING = 0.0005;

/** A share of a difference in words. */
export function shareWords(share: number | null): string {
  if (share === null) return 'not measured';
  if (Math.abs(share) < NOTHING) return 'nothing';
  return `${String(Math.round(share * 100))} %`;
}

/** What changed between two states, what accounts for most first. */
export function ChangeList({ changes }: { readonly changes: readonly ListedChange[] }) {
  if (changes.length === 0) return <p className="text-soft">Nothing changed.</p>;
  return (
    <ol className="text-[12px]" aria-label="What changed" data-testid="changes">
      {changes.map((change, k) => (
        <li
          key={`${String(k)} ${change.place} ${change.what}`}
          className="grid grid-cols-[64px_1fr] gap-x-2 border-t border-line py-0.5"
          data-kind={change.kind}
        >
          <span className="figures text-right">
            {change.kind === 'words' ? 'words' : shareWords(change.share)}
          </span>
          <span>
            <span className="text-soft">{change.place}</span> {change.what}:{' '}
            <span className={change.kind === 'words' ? '' : 'figures'}>
              {change.before} → {change.after}
            </span>
          </span>
        </li>
      ))}
    </ol>
  );
}
