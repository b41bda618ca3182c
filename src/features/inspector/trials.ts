import { getNodeTitle } from '@/core/compile/catalogue';
import type { InputView } from '@/core/compile/catalogue';
import { getInputValue } from '@/core/compile/uniforms';
import { own } from '@/core/base/own';
import { getNetwork } from '@/core/edit/board';
import { setOption, setValue } from '@/core/edit/nodes';
import { exchangeOrder } from '@/core/edit/order';
import type { BoardId, NetworkDocument, NodeInstance } from '@/core/graph/document';
import type { OptionDefinition } from '@/core/nodes/define';
import { commit } from '@/state/editing';
import { shortNumber } from '@/ui/NumberField';
import { changeOption } from './change-option';

/** One thing a node may be set to, to be seen beside others. */
export interface Trial {
  readonly key: string;
  readonly title: string;
  readonly help: string;
  /** The output that is shown where it is not that of the node itself. */
  readonly shows?: { readonly node: string; readonly output: string };
  /** Whether it is set so now. */
  readonly isNow: boolean;
  readonly set: (document: NetworkDocument, board: BoardId) => NetworkDocument;
  /** Sets it in the open document. */
  readonly take: () => void;
}
export interface Trials {
  readonly title: string;
  readonly trials: readonly Trial[];
}

/** Every choice of an option. */
export function optionTrials(
  node: NodeInstance,
  option: string,
  { title, choices, default: usual }: OptionDefinition,
): Trials {
  const now = own(node.options, option) ?? usual;
  return {
    title: `${title}: every choice`,
    trials: choices.map((choice) => ({
      key: choice.value,
      title: choice.title,
      help: choice.help,
      isNow: choice.value === now,
      set: (document, board) => setOption(document, board, node.id, option, choice.value),
      take: () => {
        changeOption(node, option, choice.value);
      },
    })),
  };
}

/** A node and the one it feeds, as they are and in the other order. */
export function orderTrials(
  document: NetworkDocument,
  board: BoardId,
  node: NodeInstance,
): Trials | null {
  const other = exchangeOrder(document, board, node.id);
  if (!other) return null;
  const { first, ends } = other;
  const [own, next] = [getNodeTitle(document, node), getNodeTitle(document, first)];
  const last = getNetwork(document, board).strands.find(({ from }) => from.node === first.id);
  return {
    title: 'Both orders',
    trials: [
      {
        key: 'as it is',
        title: `${own}, then ${next}`,
        help: 'As it is now.',
        isNow: true,
        ...(last ? { shows: last.from } : {}),
        set: (now) => now,
        take: () => undefined,
      },
      {
        key: 'the other way',
        title: `${next}, then ${own}`,
        help: 'The other way round; all values stay.',
        isNow: false,
        shows: ends,
        set: (now, at) => exchangeOrder(now, at, node.id)?.document ?? now,
        take: () => {
          commit(
            `Put ${own} behind ${next}`,
            (now, at) => exchangeOrder(now, at, node.id)?.document ?? now,
          );
        },
      },
    ],
  };
}

/** So many seeds are seen beside each other. */
const SEEDS = 16;

function valuesOf({ port, dial }: InputView, now: number): readonly number[] {
  if (port?.counts === 'seed') return Array.from({ length: SEEDS }, (_, k) => Math.floor(now) + k);
  const [low, high] = port?.soft ?? dial?.soft ?? [0, 1];
  const steps = [0, 0.25, 0.5, 0.75, 1].map((share) => low + (high - low) * share);
  return [...new Set([...steps, now])].sort((a, b) => a - b);
}

/** A number over its slider, from end to end; a seed and the fifteen that follow it. */
export function valueTrials(node: NodeInstance, view: InputView): Trials | null {
  const now = getInputValue(node, view.id) ?? view.dial?.home;
  if (typeof now !== 'number') return null;
  const values = valuesOf(view, now);
  const isSeed = view.port?.counts === 'seed';
  const words = (value: number): string => {
    if (value === values[0] && !isSeed) return view.port?.low ?? 'the low end';
    return value === values.at(-1) && !isSeed ? (view.port?.high ?? 'the high end') : '';
  };
  return {
    title: isSeed ? `${view.title}: sixteen of them` : `${view.title}: from end to end`,
    trials: values.map((value): Trial => {
      const set: Trial['set'] = (document, board) =>
        setValue(document, board, node.id, view.id, value);
      return {
        key: String(value),
        title: shortNumber(value),
        help: words(value),
        isNow: value === now,
        set,
        take: () => {
          commit(`Set ${view.title.toLowerCase()}`, set);
        },
      };
    }),
  };
}
