import type { LostSetting } from '@/core/releases/take-release';

const WHAT: Readonly<Record<LostSetting['what'], string>> = {
  value: 'own value of',
  strand: 'strand at',
  drive: 'drive by',
};

/** What of a material's own a release has no place for. */
export function LostList({ lost }: { readonly lost: readonly LostSetting[] }) {
  if (lost.length === 0) return null;
  return (
    <div className="mt-1 text-[12px] text-madder" data-testid="lost">
      <p>▲ Cannot be kept:</p>
      <ul>
        {lost.map(({ what, title, reason, node, board }) => (
          <li key={`${String(board)} ${node} ${what} ${title}`}>
            {WHAT[what]} “{title}”: {reason}
          </li>
        ))}
      </ul>
    </div>
  );
}
