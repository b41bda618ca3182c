import { own } from '@/core/base/own';
import { findNodeDefinition } from '@/core/compile/catalogue';
import { setOption, setValue } from '@/core/edit/nodes';
import type { NodeInstance } from '@/core/graph/document';
import { tellChange } from '@/state/tell-change';
import { commit } from '@/state/editing';

/** Chooses a mode; another operation makes the old operand meaningless, so it gets its neutral. */
export function changeOption(node: NodeInstance, option: string, choice: string): void {
  const definition = findNodeDefinition(node);
  const mode = own(definition?.options, option);
  const titleOf = (value: string | undefined): string =>
    mode?.choices.find((each) => each.value === value)?.title ?? value ?? '';
  const before = own(node.options, option) ?? mode?.default;
  commit('Changed a mode', (current, at) => {
    const next = setOption(current, at, node.id, option, choice);
    const neutral = own(definition?.neutral, choice);
    return neutral ? setValue(next, at, node.id, neutral.input, neutral.value) : next;
  });
  const name = node.name ?? definition?.title ?? node.type;
  if (before !== choice)
    tellChange(`${name}, ${mode?.title ?? option}: ${titleOf(before)} → ${titleOf(choice)}`);
}
