import type { ResultKey } from '../core/base/ids';
import { placeAsCounted } from '../core/edit/beacons';
import { setOption, setValue } from '../core/edit/nodes';
import { findNodeDefinition } from '../core/compile/catalogue';
import type { InputView } from '../core/compile/catalogue';
import type { NodeInstance, Triple } from '../core/graph/document';
import type { Picked } from '../core/evaluate/pick';
import { commit } from './editing';
import { stores } from './stores';
import type { Picking } from './stores';

const tidy = (value: number): number => Number(value.toPrecision(4));
const triple = (values: readonly number[]): Triple => [
  tidy(values[0] ?? 0),
  tidy(values[1] ?? 0),
  tidy(values[2] ?? 0),
];

const nameOf = (node: NodeInstance): string =>
  node.name ?? findNodeDefinition(node)?.title ?? node.id;

/** What a click gives an input of this kind; null where the model has nothing to give it. */
type Taking = (picked: Picked) => number | Triple | string;
function takingOf(
  node: NodeInstance,
  { kind, port }: InputView,
): { readonly what: string; readonly of: Taking } | null {
  if (kind === 'colour')
    return {
      what: 'the colour shown',
      of: colourOf,
    };
  if (port?.picks === 'direction')
    return { what: 'the direction it faces', of: ({ normal }) => triple(normal) };
  if (port?.picks === 'place')
    return {
      what: 'the place',
      of: ({ place }) => {
        const { model } = stores.stage.getState();
        return model ? placeAsCounted(node, place, model.scale) : 'The model is not loaded yet.';
      },
    };
  if (kind === 'scalar' || kind === 'flex')
    return {
      what: 'the number shown',
      of: ({ kind: shown, value }) =>
        shown === 'scalar'
          ? tidy(value[0] ?? 0)
          : 'What is shown has no single number there. Pin a number first.',
    };
  return null;
}

/** Waits for a click that sets an input of a node of the board shown. */
export function pickingFor(node: NodeInstance, view: InputView): Picking | null {
  const taking = takingOf(node, view);
  if (!taking) return null;
  return {
    asks:
      `Click the model: ${taking.what} becomes ${view.title.toLowerCase()} of ` +
      `“${nameOf(node)}”.`,
    take: (picked) => {
      const value = taking.of(picked);
      if (typeof value === 'string') return value;
      const [low, high] = view.port?.hard ?? [-Infinity, Infinity];
      const limited = typeof value === 'number' ? Math.min(high, Math.max(low, value)) : value;
      commit(`Picked ${view.title.toLowerCase()}`, (document, board) =>
        setValue(document, board, node.id, view.id, limited),
      );
      return null;
    },
  };
}

/** What a click shows as a colour; a number is a grey. */
const colourOf = ({ kind, value }: Picked): Triple =>
  kind === 'scalar' ? triple([value[0] ?? 0, value[0] ?? 0, value[0] ?? 0]) : triple(value);

/**
 * Waits for a click whose colour a field takes.
 * @param reads the output it is read of; else what is shown
 */
export function pickColour(
  label: string,
  reads: { readonly key: ResultKey; readonly name: string } | null,
  take: (colour: Triple) => void,
): void {
  const what = reads ? `the colour of “${reads.name}”` : 'the colour shown';
  stores.view.setState({
    picking: {
      asks: `Click the model: ${what} there becomes ${label.toLowerCase()}.`,
      ...(reads ? { reads: reads.key } : {}),
      take: (picked) => {
        take(colourOf(picked));
        return null;
      },
    },
  });
}

/** Waits for a click that names a part. */
export const pickingPart = (node: NodeInstance, option: string, title: string): Picking => ({
  asks: `Click the part that becomes ${title.toLowerCase()} of “${nameOf(node)}”.`,
  take: ({ part }) => {
    commit('Picked a part', (document, board) => setOption(document, board, node.id, option, part));
    return null;
  },
});
