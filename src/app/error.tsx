'use client';
import Link from 'next/link';
import { describeError } from '@/core/base/problem';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';

/** What stands in for a page that could not be made. */
export default function PageError({
  error,
  reset,
}: {
  readonly error: Error;
  readonly reset: () => void;
}) {
  const { code } = describeError(error);
  const problem = {
    code,
    message: 'This page cannot be shown at the moment.',
    kept: 'Nothing is lost: unsaved work stays in this browser.',
    action: 'Try again; if it happens again, tell whoever runs the studio.',
  };
  return (
    <main className="grid h-full place-items-center p-8">
      <div className="max-w-[52ch]">
        <ProblemNote problem={problem} />
        <div className="mt-3 flex gap-2">
          <Button look="strong" onClick={reset}>
            Try again
          </Button>
          <Link className="self-center underline" href="/materials">
            Go to the materials
          </Link>
        </div>
      </div>
    </main>
  );
}
