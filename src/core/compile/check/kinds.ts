import { isChoice, isCurve, isFormula, isImage, isRamp, isTriple } from '../../graph/document';
import type { PortKind } from '../../nodes/define';

/** Whether a typed value is of the kind an input takes. */
export function fits(kind: PortKind, value: unknown): boolean {
  switch (kind) {
    case 'scalar':
    case 'fixed':
      return typeof value === 'number';
    case 'vector':
    case 'colour':
      return isTriple(value);
    case 'flex':
      return typeof value === 'number' || isTriple(value);
    case 'ramp':
      return isRamp(value);
    case 'curve':
      return isCurve(value);
    case 'image':
      return isImage(value);
    case 'formula':
      return isFormula(value);
    case 'choice':
      return isChoice(value);
    case 'surface':
    case 'scalars':
      return false;
  }
}

const WORDS: Record<PortKind, string> = {
  scalar: 'number',
  fixed: 'number',
  scalars: 'number',
  vector: 'vector (three numbers)',
  colour: 'colour (three numbers)',
  flex: 'number, vector or colour',
  ramp: 'ramp',
  curve: 'curve',
  image: 'image',
  formula: 'formula',
  choice: 'choice',
  surface: 'surface',
};

/** What a kind of value is called in messages. */
export const kindWord = (kind: PortKind): string => WORDS[kind];
