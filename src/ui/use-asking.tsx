'use client';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { Button } from './Button';
import { Sheet } from './Sheet';

interface Asked {
  readonly name: string;
  readonly missing: readonly string[];
  readonly answer: (goesOn: boolean) => void;
}

/** Says what a file lacks before it is brought in, and asks whether it is wanted all the same. */
export function useAsking(): {
  /** @returns whether to go on; at once where nothing is missing */
  readonly ask: (name: string, missing: readonly string[]) => Promise<boolean>;
  readonly question: ReactNode;
} {
  const [asked, setAsked] = useState<Asked | null>(null);
  const answer = (goesOn: boolean): void => {
    asked?.answer(goesOn);
    setAsked(null);
  };
  return {
    ask: (name, missing) =>
      missing.length === 0
        ? Promise.resolve(true)
        : new Promise((resolve) => {
            setAsked({ name, missing, answer: resolve });
          }),
    question: (
      <Sheet
        open={asked !== null}
        onClose={() => {
          answer(false);
        }}
        title={`${asked?.name ?? 'The file'} is not whole`}
        description="What it lacks is not in the file; what this studio has already is used."
      >
        <ul className="mb-3 list-disc pl-5">
          {asked?.missing.map((each) => (
            <li key={each}>{each}</li>
          ))}
        </ul>
        <div className="flex gap-2">
          <Button
            look="strong"
            onClick={() => {
              answer(true);
            }}
          >
            Bring it in all the same
          </Button>
          <Button
            onClick={() => {
              answer(false);
            }}
          >
            Leave it
          </Button>
        </div>
      </Sheet>
    ),
  };
}
