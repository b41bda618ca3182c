'use client';
import { useState } from 'react';
import { parseFormula } from '@/core/nodes/formula/parse';
import { FUNCTIONS } from '@/core/nodes/formula/functions';
import { FormulaError } from '@/core/nodes/formula/tokens';

interface Props {
  readonly text: string;
  readonly onChange: (text: string) => void;
}
interface Mistake {
  readonly at: number;
  readonly reason: string;
}

function mistakeIn(text: string): Mistake | null {
  try {
    parseFormula(text);
    return null;
  } catch (error) {
    if (error instanceof FormulaError) return { at: error.at, reason: error.reason };
    throw error;
  }
}

/** The line in which a character stands, with a mark under it. */
function excerpt(text: string, at: number): { readonly line: string; readonly mark: string } {
  const start = text.lastIndexOf('\n', Math.max(0, at - 1)) + 1;
  const end = text.indexOf('\n', at);
  const from = Math.max(start, at - 40);
  return {
    line: text.slice(from, Math.min(end < 0 ? text.length : end, from + 80)),
    mark: `${' '.repeat(at - from)}▲`,
  };
}

/**
 * Text of a formula. What can be read is used at once; what cannot stays here with its mistake
 * marked, and is saved when the field is left, so that no work is lost.
 */
export function FormulaEditor({ text, onChange }: Props) {
  const [draft, setDraft] = useState(text);
  const [used, setUsed] = useState(text);
  if (used !== text) {
    // Undo or another person changed it.
    setUsed(text);
    setDraft(text);
  }
  const mistake = mistakeIn(draft);
  const marked = mistake ? excerpt(draft, mistake.at) : null;
  const change = (next: string): void => {
    setDraft(next);
    if (mistakeIn(next)) return;
    setUsed(next);
    onChange(next);
  };
  return (
    <div className="mb-2 max-w-[760px]">
      <textarea
        aria-label="Formula"
        aria-invalid={mistake !== null}
        aria-describedby="formula-mistake"
        spellCheck={false}
        rows={Math.min(8, Math.max(2, draft.split('\n').length))}
        value={draft}
        onChange={(event) => {
          change(event.target.value);
        }}
        onKeyDown={(event) => {
          event.stopPropagation();
        }}
        onBlur={() => {
          if (draft !== text) {
            setUsed(draft);
            onChange(draft);
          }
        }}
        className={
          'figures w-full resize-y border bg-ground px-2 py-1 text-[12.5px] leading-[1.5] ' +
          (mistake ? 'border-madder' : 'border-line')
        }
      />
      <div id="formula-mistake" role="status" className="min-h-[16px] text-[11.5px]">
        {mistake && marked ? (
          <>
            <pre className="figures leading-[1.1] text-madder" aria-hidden>
              {marked.line}
              {'\n'}
              {marked.mark}
            </pre>
            <span className="text-madder">
              At character {mistake.at + 1}: {mistake.reason}
            </span>{' '}
            <span className="text-soft">
              It is used as soon as it can be read; until then nothing changes.
            </span>
          </>
        ) : (
          <span
            className="block truncate text-soft"
            title={Object.entries(FUNCTIONS)
              .map(([name, { help }]) => `${name}: ${help}`)
              .join('\n')}
          >
            {Object.keys(FUNCTIONS).join(' ')} vec3 float PI TAU
          </span>
        )}
      </div>
    </div>
  );
}
