'use client';
import { useMemo, useState } from 'react';
import dynamic from 'next/dynamic';
import { parseFormula } from '@/core/nodes/formula/parse';
import { FUNCTIONS } from '@/core/nodes/formula/functions';
import { FormulaError } from '@/core/nodes/formula/tokens';
import type { PlacedFinding } from '@/state/findings-state';
import type { FormulaInput } from './formula-language';
import type { Mistake } from './FormulaField';

/** The editor of text comes with the first formula that is opened. */
const FormulaField = dynamic(() => import('./FormulaField').then((part) => part.FormulaField), {
  ssr: false,
  loading: () => <div className="min-h-[54px] border border-line" />,
});

interface Props {
  readonly text: string;
  /** What the check of the whole document found in it. */
  readonly faults: readonly PlacedFinding[];
  /** What it may call by name. */
  readonly inputs: readonly FormulaInput[];
  readonly onChange: (text: string) => void;
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

/**
 * Text of a formula. What can be read is used at once; what cannot stays here with its mistake
 * marked, and is saved when the field is left, so that no work is lost.
 */
export function FormulaEditor({ text, faults, inputs, onChange }: Props) {
  const [draft, setDraft] = useState(text);
  const [used, setUsed] = useState(text);
  if (used !== text) {
    // Undo or another person changed it.
    setUsed(text);
    setDraft(text);
  }
  const unread = mistakeIn(draft);
  const fault = draft === text ? faults.find(({ place }) => place.character !== undefined) : null;
  const at = unread?.at ?? fault?.place.character;
  const reason = unread?.reason ?? fault?.message;
  const mistake = useMemo(
    () => (reason === undefined ? null : { at: at ?? 0, reason }),
    [at, reason],
  );
  const use = (next: string): void => {
    setUsed(next);
    onChange(next);
  };
  return (
    <div className="mb-2 max-w-[760px]">
      <FormulaField
        draft={draft}
        mistake={mistake}
        inputs={inputs}
        onDraft={(next) => {
          setDraft(next);
          if (!mistakeIn(next)) use(next);
        }}
        onLeave={() => {
          if (draft !== text) use(draft);
        }}
      />
      <div id="formula-mistake" role="status" className="min-h-[16px] text-[11.5px]">
        {mistake ? <MistakeNote mistake={mistake} isUnread={unread !== null} /> : <FunctionNames />}
      </div>
    </div>
  );
}

interface NoteProps {
  readonly mistake: Mistake;
  /** Whether it cannot be read at all; else it does not fit what is wired in. */
  readonly isUnread: boolean;
}

function MistakeNote({ mistake, isUnread }: NoteProps) {
  return (
    <>
      <span className="text-madder" data-testid="formula-mark" data-character={mistake.at}>
        At character {mistake.at + 1}: {mistake.reason}
      </span>{' '}
      {isUnread ? (
        <span className="text-soft">
          It is used as soon as it can be read; until then nothing changes.
        </span>
      ) : null}
    </>
  );
}

const NAMES = [...Object.keys(FUNCTIONS), 'vec3', 'float', 'PI', 'TAU'].join(' ');

function FunctionNames() {
  return (
    <details className="text-soft">
      <summary className="cursor-pointer">
        Type to complete names; Ctrl+Space offers all {Object.keys(FUNCTIONS).length} functions.
      </summary>
      <span className="figures block">{NAMES}</span>
    </details>
  );
}
