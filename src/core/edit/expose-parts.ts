import { own } from '../base/own';
import { findNodeDefinition, inputPort } from '../compile/catalogue';
import { getInputValue } from '../compile/uniforms';
import { FormulaError, tokenise } from '../nodes/formula/tokens';
import { isFormula, isRamp } from '../graph/document';
import type { BoardId, NetworkDocument, NodeInstance } from '../graph/document';
import { STOP_ASPECTS } from '../nodes/ramp-table';
import { toggleOpen } from './ramps';
import { changeNode, getNetwork } from './board';

/** A part of a value that becomes an input of its own, so that a dial can drive it. */
export interface ValuePart {
  /** The input it becomes. */
  readonly input: string;
  readonly title: string;
  /** The node with the part opened; it looks the same. */
  readonly opened: NodeInstance;
}

/** The stops of a node's ramps, aspect by aspect, as far as they are not inputs yet. */
function stopParts(node: NodeInstance): readonly ValuePart[] {
  return Object.keys(findNodeDefinition(node)?.inputs ?? {}).flatMap((input) => {
    const ramp = getInputValue(node, input);
    if (!isRamp(ramp)) return [];
    const ordered = [...ramp.stops].sort((a, b) => a.position - b.position);
    return ordered.flatMap(({ id, open }, k) =>
      STOP_ASPECTS.filter((aspect) => !open?.includes(aspect)).map((aspect) => ({
        input: `${input}.${id}.${aspect}`,
        title: `Stop ${String(k + 1)} ${aspect}`,
        opened: { ...node, values: { ...node.values, [input]: toggleOpen(ramp, id, aspect) } },
      })),
    );
  });
}

/** Letters that a formula may call, and that nothing of the node uses. */
function freeLetters(
  node: NodeInstance,
  names: ReadonlySet<string>,
  wired: ReadonlySet<string>,
): readonly string[] {
  return Object.keys(findNodeDefinition(node)?.inputs ?? {}).filter(
    (input) =>
      inputPort(node, input)?.kind !== 'formula' &&
      !names.has(input) &&
      !wired.has(input) &&
      own(node.values, input) === undefined,
  );
}

/** The numbers in the formulas of a node; each would be called by a letter that is free. */
function constantParts(node: NodeInstance, wired: ReadonlySet<string>): readonly ValuePart[] {
  return Object.keys(findNodeDefinition(node)?.inputs ?? {}).flatMap((input) => {
    const value = getInputValue(node, input);
    if (!isFormula(value)) return [];
    const { formula } = value;
    try {
      const tokens = tokenise(formula);
      const names = new Set(tokens.filter(({ kind }) => kind === 'name').map(({ text }) => text));
      const [letter] = freeLetters(node, names, wired);
      if (letter === undefined) return [];
      return tokens
        .filter(({ kind }) => kind === 'number')
        .map(({ text, at }, k) => {
          const end = at + text.length + (formula[at + text.length] === 'f' ? 1 : 0);
          const called = `${formula.slice(0, at)}${letter}${formula.slice(end)}`;
          return {
            input: letter,
            title: `Number ${text} (${String(k + 1)}.)`,
            opened: {
              ...node,
              values: { ...node.values, [input]: { formula: called }, [letter]: Number(text) },
            },
          };
        });
    } catch (error) {
      // What is wrong with a formula is said where it is edited.
      if (error instanceof FormulaError) return [];
      throw error;
    }
  });
}

/** The parts of a node's values that could be inputs: single stops, numbers in formulas. */
export function listParts(
  document: NetworkDocument,
  board: BoardId,
  node: NodeInstance,
): readonly ValuePart[] {
  const wired = new Set(
    getNetwork(document, board)
      .strands.filter(({ to }) => to.node === node.id)
      .map(({ to }) => to.input),
  );
  return [...stopParts(node), ...constantParts(node, wired)];
}

/** Makes a part of a node's value an input of it; what it gives stays the same. */
export const openPart = (
  document: NetworkDocument,
  board: BoardId,
  { opened }: ValuePart,
): NetworkDocument => changeNode(document, board, opened.id, () => opened);
