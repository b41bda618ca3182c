import { autocompletion } from '@codemirror/autocomplete';
import type { Completion, CompletionContext, CompletionResult } from '@codemirror/autocomplete';
import { HighlightStyle, StreamLanguage, syntaxHighlighting } from '@codemirror/language';
import type { Extension } from '@codemirror/state';
import { tags } from '@lezer/highlight';
import { CONSTANTS, FUNCTIONS } from '@/core/nodes/formula/functions';
import { FORMULA_TYPES } from '@/core/nodes/formula/parse';

/** What a formula may call by its name: an input of the node. */
export interface FormulaInput {
  readonly name: string;
  readonly help: string;
}

const WORD = /[A-Za-z_][A-Za-z_0-9]*/;
const DECLARED = new RegExp(`\\b(${FORMULA_TYPES.join('|')})\\s+(${WORD.source})\\s*=`, 'g');

function styleOf(word: string, inputs: ReadonlySet<string>): string {
  if (inputs.has(word)) return 'propertyName';
  if (FORMULA_TYPES.includes(word)) return 'typeName';
  if (Object.hasOwn(FUNCTIONS, word)) return 'keyword';
  return Object.hasOwn(CONSTANTS, word) ? 'number' : 'variableName';
}

const language = (inputs: readonly FormulaInput[]): Extension => {
  const names = new Set(inputs.map(({ name }) => name));
  return StreamLanguage.define({
    name: 'formula',
    token: (stream) => {
      if (stream.eatSpace()) return null;
      if (stream.match(/\/\/.*/)) return 'comment';
      if (stream.match(/(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?f?/)) return 'number';
      if (stream.match(WORD)) return styleOf(stream.current(), names);
      stream.next();
      return 'operator';
    },
  });
};

/** Told apart by weight and slant as well, never by hue alone. */
const COLOURS = HighlightStyle.define([
  { tag: tags.comment, color: 'var(--ink-soft)', fontStyle: 'italic' },
  { tag: tags.number, color: 'var(--ink)' },
  { tag: tags.propertyName, color: 'var(--ink)', fontWeight: '700' },
  { tag: tags.keyword, color: 'var(--woad)' },
  { tag: tags.typeName, color: 'var(--woad)', fontStyle: 'italic' },
  { tag: tags.operator, color: 'var(--ink-soft)' },
]);

const calls: readonly Completion[] = Object.entries(FUNCTIONS).map(([name, { takes, help }]) => ({
  label: name,
  type: 'function',
  detail: `(${['x', 'y', 'z'].slice(0, takes).join(', ')})`,
  info: help,
  apply: `${name}(`,
}));
const words: readonly Completion[] = [
  ...FORMULA_TYPES.map((label) => ({ label, type: 'type', detail: 'type' })),
  ...Object.entries(CONSTANTS).map(([label, value]) => ({
    label,
    type: 'constant',
    detail: value.toPrecision(6),
  })),
  { label: 'vec3', type: 'function', detail: '(x, y, z)', apply: 'vec3(', info: 'three in one' },
];
const PARTS: readonly Completion[] = ['x', 'y', 'z', 'r', 'g', 'b', 'xyz', 'rgb'].map((label) => ({
  label,
  type: 'property',
  detail: label.length === 1 ? 'one part' : 'all three',
}));

/** Offers inputs, named intermediate values, functions, types and parts after a dot. */
const completing =
  (inputs: readonly FormulaInput[]) =>
  (context: CompletionContext): CompletionResult | null => {
    const part = context.matchBefore(/[A-Za-z_)][A-Za-z_0-9]*\.[A-Za-z]*/);
    if (part) return { from: part.from + part.text.indexOf('.') + 1, options: PARTS };
    const word = context.matchBefore(WORD);
    if (!word && !context.explicit) return null;
    const declared = [...context.state.sliceDoc(0, context.pos).matchAll(DECLARED)].map(
      ([, type = '', label = '']) => ({ label, type: 'variable', detail: type, boost: 1 }),
    );
    const given = inputs.map(({ name, help }) => ({
      label: name,
      type: 'variable',
      detail: 'input',
      info: help,
      boost: 2,
    }));
    return {
      from: word?.from ?? context.pos,
      options: [...given, ...declared, ...calls, ...words],
      validFor: /^\w*$/,
    };
  };

/** Colours and completion for the notation of formulas. */
export const formulaLanguage = (inputs: readonly FormulaInput[]): Extension => [
  language(inputs),
  syntaxHighlighting(COLOURS),
  autocompletion({ override: [completing(inputs)], icons: false }),
];
