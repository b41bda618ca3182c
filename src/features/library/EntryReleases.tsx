'use client';
import { useState } from 'react';
import type { EntryView, ReleaseSummary } from '@/contract/library';
import { Button } from '@/ui/Button';
import { comparedWords } from './EntryAbout';
import { Review } from './Review';
import { Withdrawal } from './Withdrawal';

const day = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium' });

/** What a class means for those who use the release before. */
export const CLASS_WORDS: Readonly<Record<ReleaseSummary['releaseClass'], string>> = {
  first: 'first release',
  same: 'same: nothing looks different',
  compatible: 'compatible: looks differ, all settings are kept',
  breaking: 'breaking: something is missing',
};
const STATE_WORDS: Readonly<Record<ReleaseSummary['state'], string>> = {
  out: '',
  proposed: 'waits for a librarian',
  returned: 'sent back by a librarian',
};

/** The releases of an entry, the newest first. */
export function EntryReleases({ entry }: { readonly entry: EntryView }) {
  return (
    <ul data-testid="releases">
      {entry.releases.map((release) => (
        <ReleaseRow key={release.version} entry={entry} release={release} />
      ))}
    </ul>
  );
}

interface RowProps {
  readonly entry: EntryView;
  readonly release: ReleaseSummary;
}

function ReleaseRow({ entry, release }: RowProps) {
  const [isAsked, setAsked] = useState(false);
  const { version, state, releaseClass, notes, remarks, comparison } = release;
  const mayWithdraw = entry.mayReview && state === 'out' && release.withdrawnAt === null;
  return (
    <li className="border-b border-line py-1.5 text-[12px]" data-release={version}>
      <div className="flex flex-wrap items-center gap-x-3">
        <span className="figures text-[14px]">{version}</span>
        <span className={releaseClass === 'breaking' ? 'text-madder' : ''}>
          {releaseClass === 'breaking' ? '▲ ' : ''}
          {CLASS_WORDS[releaseClass]}
        </span>
        <span className="text-soft">
          {day.format(new Date(release.createdAt))}, {release.authorName}
        </span>
        {STATE_WORDS[state] ? <strong>{STATE_WORDS[state]}</strong> : null}
        {release.withdrawnAt === null ? null : (
          <span className="text-madder">withdrawn: {release.withdrawnReason}</span>
        )}
        {mayWithdraw && !isAsked ? (
          <Button
            className="ml-auto"
            onClick={() => {
              setAsked(true);
            }}
          >
            Withdraw
          </Button>
        ) : null}
      </div>
      {comparison ? <p className="text-soft">{comparedWords(comparison)}</p> : null}
      {notes ? <p className="whitespace-pre-line">{notes}</p> : null}
      {remarks.map(({ place, text, author, at }) => (
        <p key={`${at} ${place}`} className="border-l-2 border-weld pl-2">
          <strong>{place}</strong> {text} <span className="text-soft">{author}</span>
        </p>
      ))}
      {isAsked ? (
        <Withdrawal
          entryId={entry.id}
          version={version}
          onDone={() => {
            setAsked(false);
          }}
        />
      ) : null}
      {state === 'proposed' && entry.mayReview ? (
        <Review entryId={entry.id} release={release} />
      ) : null}
    </li>
  );
}
