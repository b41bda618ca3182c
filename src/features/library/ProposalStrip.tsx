'use client';
import Link from 'next/link';
import { listProposals } from '@/contract/shelf';
import { useCall } from '@/state/use-call';
import { CLASS_WORDS } from './EntryReleases';

/** Releases that wait for a librarian. */
export function ProposalStrip() {
  const { data } = useCall(listProposals);
  const proposals = data?.proposals ?? [];
  if (proposals.length === 0) return null;
  return (
    <section aria-label="To review" className="mb-3 border border-weld p-2 text-[12px]">
      <h2 className="font-semibold">To review</h2>
      <ul>
        {proposals.map(({ entryId, entryName, version, releaseClass, authorName }) => (
          <li key={`${entryId} ${version}`}>
            <Link className="underline" href={`/library/${entryId}`}>
              {entryName} <span className="figures">{version}</span>
            </Link>{' '}
            <span className="text-soft">
              {authorName}; {CLASS_WORDS[releaseClass]}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
