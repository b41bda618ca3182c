import { IconButton } from '../IconButton';
import { Undo2 } from 'lucide-react';

/** A change between two states, with how much of their difference it accounts for. */
export interface ListedChange {
  readonly kind: string;
  readonly place: string;
  readonly what: string;
  readonly before: string;
  readonly after: string;
  /** 1 for all of the difference; null where it was not measured. */
  readonly share: number | null;
  /** Whether measuring is over; taken as true where left out. */
  readonly isMeasured?: boolean;
  /** Puts this alone back; null or left out where it cannot be. */
  readonly onRestore?: (() => void) | null;
  /** Leads to where it is. */
  readonly onShow?: (() => void) | null;
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
        <ChangeRow key={`${String(k)} ${change.place} ${change.what}`} change={change} />
      ))}
    </ol>
  );
}

function shareOf({ kind, share, isMeasured = true }: ListedChange): string {
  if (kind === 'words') return 'words';
  return isMeasured ? shareWords(share) : '…';
}

function ChangeRow({ change }: { readonly change: ListedChange }) {
  const { kind, place, what, before, after, onShow = null, onRestore = null } = change;
  return (
    <li
      className="grid grid-cols-[64px_1fr_auto] gap-x-2 border-t border-line py-0.5"
      data-kind={kind}
    >
      <span className="figures text-right">{shareOf(change)}</span>
      <span>
        {onShow ? (
          <button
            type="button"
            className="min-h-[24px] text-left text-soft underline decoration-dotted"
            title="Show it on its board"
            onClick={onShow}
          >
            {place}
          </button>
        ) : (
          <span className="text-soft">{place}</span>
        )}{' '}
        {what}:{' '}
        <span className={kind === 'words' ? '' : 'figures'}>
          {before} → {after}
        </span>
      </span>
      {onRestore ? (
        <IconButton name={`Put back ${what} of ${place}`} onClick={onRestore}>
          <Undo2 size={12} />
        </IconButton>
      ) : null}
    </li>
  );
}
