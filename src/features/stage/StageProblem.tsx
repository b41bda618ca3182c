'use client';
import type { Problem } from '@/core/base/problem';
import { openFindings } from '@/state/use-findings';
import { ProblemNote } from '@/ui/ProblemNote';

/** Why the stage shows an older state; where the document is at fault, a way to the list. */
export function StageProblem({ problem }: { readonly problem: Problem }) {
  const count = problem.findings?.length ?? 0;
  return (
    <div className="border border-madder bg-panel">
      <ProblemNote problem={{ ...problem, findings: [] }} />
      {count > 0 ? (
        <button
          type="button"
          className="mx-2 mb-1 text-[12px] underline"
          onClick={() => {
            openFindings(true);
          }}
        >
          {count === 1 ? 'Show where' : `Show all ${String(count)} errors`}
        </button>
      ) : null}
    </div>
  );
}
