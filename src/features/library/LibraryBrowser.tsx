'use client';
import { useEffect, useState } from 'react';
import { getJson } from '@/state/api';
import { EntryGrid } from './EntryGrid';
import type { LibraryAnswer } from './library-types';

/** All racks the user sees, with search. */
export function LibraryBrowser() {
  const [query, setQuery] = useState('');
  const [rack, setRack] = useState('');
  const [answer, setAnswer] = useState<LibraryAnswer | null>(null);
  const [failure, setFailure] = useState('');
  useEffect(() => {
    const timer = setTimeout(() => {
      getJson<LibraryAnswer>(`/api/library?query=${encodeURIComponent(query)}${rack ? `&rack=${encodeURIComponent(rack)}` : ''}`).then(setAnswer)
        .catch((error: unknown) => { setFailure(error instanceof Error ? error.message : String(error)); });
    }, 120);
    return () => { clearTimeout(timer); };
  }, [query, rack]);
  return (
    <>
      <div className="mb-4 flex flex-wrap items-center gap-3">
        <input aria-label="Search the library" placeholder="Search by name, tag or what it does" value={query} onChange={(event) => { setQuery(event.target.value); }} className="w-[320px] border border-line bg-panel px-2 py-1" />
        {[{ id: '', name: 'All racks' }, ...(answer?.racks ?? [])].map((each) => (
          <button key={each.id} type="button" aria-pressed={rack === each.id} className={`px-1 ${rack === each.id ? 'border-b-2 border-weld' : 'text-soft'}`} onClick={() => { setRack(each.id); }}>{each.name}</button>
        ))}
      </div>
      {failure ? <p role="alert" className="text-madder">{failure}</p> : null}
      {answer ? <EntryGrid answer={answer} /> : <p className="text-soft">Looking …</p>}
    </>
  );
}
