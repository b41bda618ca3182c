'use client';
import type { PlacedFinding } from '@/state/findings-state';
import { cureFinding, cureTitle, useFindings } from '@/state/use-findings';

const SIGNS = { error: '✕', warning: '!', note: '·' } as const;

/** What is wrong with the chosen card or strand, each with what one press can do about it. */
export function FindingNotes({ findings }: { readonly findings: readonly PlacedFinding[] }) {
  const shown = useFindings((state) => state.shown);
  if (findings.length === 0) return null;
  return (
    <ul className="mb-1 max-w-[760px]" data-testid="finding-notes">
      {findings.map((finding, k) => {
        const cure = cureTitle(finding);
        const isShown = shown?.pointer === finding.pointer && shown.code === finding.code;
        return (
          <li
            key={`${finding.pointer} ${finding.code} ${String(k)}`}
            data-code={finding.code}
            className={`flex items-baseline gap-2 text-[11.5px] ${isShown ? 'finding-shown' : ''}`}
          >
            <span
              className={
                'figures w-[44px] shrink-0 text-right ' +
                (finding.severity === 'note' ? 'text-soft' : 'text-madder')
              }
            >
              {SIGNS[finding.severity]}
            </span>
            <span>{finding.message}</span>
            {cure === null ? null : (
              <button
                type="button"
                className="shrink-0 border-b border-weld"
                onClick={() => {
                  cureFinding(finding);
                }}
              >
                {cure}
              </button>
            )}
          </li>
        );
      })}
    </ul>
  );
}
