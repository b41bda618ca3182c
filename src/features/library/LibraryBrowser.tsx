'use client';
import { useState } from 'react';
import { describeError } from '@/core/base/problem';
import { ProblemNote } from '@/ui/ProblemNote';
import { EntryGrid } from './EntryGrid';
import { useLibrarySearch } from './use-library-search';

/** All racks the user sees, with search. */
export function LibraryBrowser() {
  const [query, setQuery] = useState('');
  const [rack, setRack] = useState('');
  const { data: answer, error } = useLibrarySearch(query, rack);
  return (
    <>
      <div className="mb-4 flex flex-wrap items-center gap-3">
        <input
          aria-label="Search the library"
          placeholder="Search by name, tag or what it does"
          value={query}
          onChange={(event) => {
            setQuery(event.target.value);
          }}
          className="w-[320px] border border-line bg-panel px-2 py-1"
        />
        {[{ id: '', name: 'All racks' }, ...(answer?.racks ?? [])].map((each) => (
          <button
            key={each.id}
            type="button"
            aria-pressed={rack === each.id}
            className={`px-1 ${rack === each.id ? 'border-b-2 border-weld' : 'text-soft'}`}
            onClick={() => {
              setRack(each.id);
            }}
          >
            {each.name}
          </button>
        ))}
      </div>
      {error ? <ProblemNote problem={describeError(error)} /> : null}
      {answer ? (
        <EntryGrid answer={answer} />
      ) : error ? null : (
        <p className="text-soft">Looking …</p>
      )}
    </>
  );
}
