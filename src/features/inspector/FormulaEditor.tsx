'use client';
import { useEffect, useRef, useState } from 'react';
import { parseFormula } from '@/core/nodes/formula/parse';
import { FUNCTIONS } from '@/core/nodes/formula/functions';
import { FormulaError } from '@/core/nodes/formula/tokens';
import type { PlacedFinding } from '@/state/findings-state';
import { useFindings } from '@/state/use-findings';

interface Props {
  readonly text: string;
  /** What the check of the whole document found in it. */
  readonly faults: readonly PlacedFinding[];
  readonly onChange: (text: string) => void;
}
interface Mistake {
  /** The character, counted from 0. */
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
export function FormulaEditor({ text, faults, onChange }: Props) {
  const [draft, setDraft] = useState(text);
  const [used, setUsed] = useState(text);
  if (used !== text) {
    // Undo or another person changed it.
    setUsed(text);
    setDraft(text);
  }
  const unread = mistakeIn(draft);
  const fault = draft === text ? faults.find(({ place }) => place.character !== undefined) : null;
  const mistake =
    unread ?? (fault ? { at: fault.place.character ?? 0, reason: fault.message } : null);
  const use = (next: string): void => {
    setUsed(next);
    onChange(next);
  };
  return (
    <div className="mb-2 max-w-[760px]">
      <FormulaField
        draft={draft}
        mistake={mistake}
        onDraft={(next) => {
          setDraft(next);
          if (!mistakeIn(next)) use(next);
        }}
        onLeave={() => {
          if (draft !== text) use(draft);
        }}
      />
      <div id="formula-mistake" role="status" className="min-h-[16px] text-[11.5px]">
        {mistake ? (
          <MistakeNote draft={draft} mistake={mistake} isUnread={unread !== null} />
        ) : (
          <FunctionNames />
        )}
      </div>
    </div>
  );
}

interface FieldProps {
  readonly draft: string;
  readonly mistake: Mistake | null;
  readonly onDraft: (draft: string) => void;
  readonly onLeave: () => void;
}

/** The text itself; a finding that was gone to puts the cursor at its character. */
function FormulaField({ draft, mistake, onDraft, onLeave }: FieldProps) {
  const field = useRef<HTMLTextAreaElement>(null);
  const shown = useFindings((state) => state.shown);
  useEffect(() => {
    const at = shown?.place.character;
    if (at === undefined) return;
    field.current?.focus();
    field.current?.setSelectionRange(at, at + 1);
  }, [shown]);
  return (
    <textarea
      ref={field}
      aria-label="Formula"
      aria-invalid={mistake !== null}
      aria-describedby="formula-mistake"
      spellCheck={false}
      rows={Math.min(8, Math.max(2, draft.split('\n').length))}
      value={draft}
      onChange={(event) => {
        onDraft(event.target.value);
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
      }}
      onBlur={onLeave}
      className={
        'figures w-full resize-y border bg-ground px-2 py-1 text-[12.5px] leading-[1.5] ' +
        (mistake ? 'border-madder' : 'border-line')
      }
    />
  );
}

interface NoteProps {
  readonly draft: string;
  readonly mistake: Mistake;
  /** Whether it cannot be read at all; else it does not fit what is wired in. */
  readonly isUnread: boolean;
}

function MistakeNote({ draft, mistake, isUnread }: NoteProps) {
  const { line, mark } = excerpt(draft, mistake.at);
  return (
    <>
      <pre
        className="figures leading-[1.1] text-madder"
        aria-hidden
        data-testid="formula-mark"
        data-character={mistake.at}
      >
        {line}
        {'\n'}
        {mark}
      </pre>
      {isUnread ? (
        <>
          <span className="text-madder">
            At character {mistake.at + 1}: {mistake.reason}
          </span>{' '}
          <span className="text-soft">
            It is used as soon as it can be read; until then nothing changes.
          </span>
        </>
      ) : (
        <span className="text-madder">{mistake.reason}</span>
      )}
    </>
  );
}

const HELP = Object.entries(FUNCTIONS)
  .map(([name, { help }]) => `${name}: ${help}`)
  .join('\n');

function FunctionNames() {
  return (
    <span className="block truncate text-soft" title={HELP}>
      {Object.keys(FUNCTIONS).join(' ')} vec3 float PI TAU
    </span>
  );
}
