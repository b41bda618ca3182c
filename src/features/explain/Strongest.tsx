'use client';
import { useStrongest } from '@/state/explaining';
import type { Evaluation } from '@/state/evaluation';
import { goTo } from '@/state/editing';

/** The values that would change the first point most, behind a word of their own. */
export function Strongest({ evaluation }: { readonly evaluation: Evaluation }) {
  const { found, isAsked, ask } = useStrongest(evaluation);
  return (
    <details
      className="mb-2 text-[12px]"
      data-testid="strongest"
      onToggle={(event) => {
        ask(event.currentTarget.open);
      }}
    >
      <summary className="min-h-[24px] cursor-pointer font-semibold">
        What would change the first point most
      </summary>
      {isAsked && !found ? <p role="status">Trying every value …</p> : null}
      {found?.length === 0 ? <p className="text-soft">No typed value changes it.</p> : null}
      <ol>
        {(found ?? []).map(({ path, node, input, title, strength }) => (
          <li
            key={`${path.join('/')} ${node} ${input}`}
            className="grid grid-cols-[1fr_auto] gap-2"
          >
            <button
              type="button"
              className="min-h-[24px] truncate text-left underline decoration-dotted"
              onClick={() => {
                goTo(path, { node });
              }}
            >
              {title}
            </button>
            <span
              className="figures"
              title="Change of the shown colour (0–1) over the whole slider, at this slope"
            >
              {strength.toPrecision(3)}
            </span>
          </li>
        ))}
      </ol>
    </details>
  );
}
