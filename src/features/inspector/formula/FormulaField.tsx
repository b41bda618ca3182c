'use client';
import { useEffect, useRef } from 'react';
import { completionStatus } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { bracketMatching } from '@codemirror/language';
import { lintKeymap, setDiagnostics } from '@codemirror/lint';
import { Compartment, EditorState } from '@codemirror/state';
import type { Extension } from '@codemirror/state';
import { EditorView, keymap } from '@codemirror/view';
import { useFindings } from '@/state/use-findings';
import { formulaLanguage } from './formula-language';
import type { FormulaInput } from './formula-language';

/** Where a formula stops making sense; `at` counts characters from 0. */
export interface Mistake {
  readonly at: number;
  readonly reason: string;
}
interface Props {
  readonly draft: string;
  readonly mistake: Mistake | null;
  readonly inputs: readonly FormulaInput[];
  readonly onDraft: (draft: string) => void;
  /** The field was left or taken away. */
  readonly onLeave: () => void;
}

const LOOK = EditorView.theme({
  '&': { fontSize: '12.5px', backgroundColor: 'var(--ground)', maxHeight: '180px' },
  '&.cm-focused': { outline: '2px solid var(--weld)', outlineOffset: '1px' },
  '.cm-scroller': { fontFamily: 'var(--font-mono)', lineHeight: '1.55', overflow: 'auto' },
  '.cm-content': { caretColor: 'var(--ink)', padding: '4px 2px', minHeight: '46px' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '&.cm-focused .cm-matchingBracket': { outline: '1px solid var(--ink-soft)', background: 'none' },
  '.cm-tooltip': { backgroundColor: 'var(--raised)', color: 'var(--ink)', borderRadius: '0' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li': { padding: '2px 6px' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': {
    backgroundColor: 'var(--weld)',
    color: 'var(--weld-ink)',
  },
  '.cm-completionDetail': { fontStyle: 'normal', opacity: '0.8' },
  '.cm-diagnostic-error': { borderLeftColor: 'var(--madder)' },
});

const describing = (mistake: Mistake | null): Extension =>
  EditorView.contentAttributes.of({
    'aria-label': 'Formula',
    'aria-invalid': String(mistake !== null),
    'aria-describedby': 'formula-mistake',
    spellcheck: 'false',
  });

interface Heard {
  readonly onDraft: (draft: string) => void;
  readonly onLeave: () => void;
}

const extensionsFor = (
  inputs: readonly FormulaInput[],
  described: Extension,
  heard: { readonly current: Heard },
): Extension => [
  history(),
  bracketMatching(),
  EditorView.lineWrapping,
  keymap.of([...defaultKeymap, ...historyKeymap, ...lintKeymap]),
  formulaLanguage(inputs),
  described,
  LOOK,
  EditorView.domEventHandlers({
    blur: () => {
      heard.current.onLeave();
    },
  }),
  EditorView.updateListener.of((update) => {
    if (update.docChanged) heard.current.onDraft(update.state.doc.toString());
  }),
];

/** The text with its colours and its completion. */
export function FormulaField({ draft, mistake, inputs, onDraft, onLeave }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const description = useRef(new Compartment());
  const heard = useRef<Heard>({ onDraft, onLeave });
  useEffect(() => {
    heard.current = { onDraft, onLeave };
  });
  const first = useRef({ draft, mistake, inputs });
  useEffect(() => {
    if (!place.current) return;
    const made = new EditorView({
      parent: place.current,
      state: EditorState.create({
        doc: first.current.draft,
        extensions: extensionsFor(
          first.current.inputs,
          description.current.of(describing(first.current.mistake)),
          heard,
        ),
      }),
    });
    view.current = made;
    return () => {
      view.current = null;
      made.destroy();
      heard.current.onLeave();
    };
  }, []);
  useEffect(() => {
    const { current } = view;
    if (!current || current.state.doc.toString() === draft) return;
    current.dispatch({ changes: { from: 0, to: current.state.doc.length, insert: draft } });
  }, [draft]);
  useEffect(() => {
    view.current?.dispatch({ effects: description.current.reconfigure(describing(mistake)) });
    markMistake(view.current, mistake);
  }, [mistake]);
  useShownCharacter(view);
  return (
    <div
      ref={place}
      onKeyDown={(event) => {
        const { current } = view;
        const closesList = event.key === 'Escape' && current && completionStatus(current.state);
        if (event.key !== 'Escape' || closesList) event.stopPropagation();
      }}
      className={`min-h-[54px] border ${mistake ? 'border-madder' : 'border-line'}`}
    />
  );
}

/** Underlines the character, or the last one where the text stops too early. */
function markMistake(view: EditorView | null, mistake: Mistake | null): void {
  if (!view) return;
  const { length } = view.state.doc;
  const from = mistake ? Math.max(0, Math.min(mistake.at, length - 1)) : 0;
  const found = mistake && {
    from,
    to: Math.min(from + 1, length),
    severity: 'error' as const,
    message: mistake.reason,
  };
  view.dispatch(setDiagnostics(view.state, found ? [found] : []));
}

/** A finding that was gone to puts the cursor at its character. */
function useShownCharacter(view: { readonly current: EditorView | null }): void {
  const shown = useFindings((state) => state.shown);
  useEffect(() => {
    const { current } = view;
    const at = shown?.place.character;
    if (!current || at === undefined) return;
    const { length } = current.state.doc;
    current.focus();
    current.dispatch({
      selection: { anchor: Math.min(at, length), head: Math.min(at + 1, length) },
    });
  }, [shown, view]);
}
