import { own } from '@/core/base/own';
import { findNodeDefinition } from '@/core/compile/catalogue';
import { setOption, setValue } from '@/core/edit/nodes';
import type { NodeInstance } from '@/core/graph/document';
import { commit } from '@/state/editing';

/** Chooses a mode; another operation makes the old operand meaningless, so it gets its neutral. */
export function changeOption(node: NodeInstance, option: string, choice: string): void {
  commit('Changed a mode', (current, at) => {
    const next = setOption(current, at, node.id, option, choice);
    const neutral = own(findNodeDefinition(node)?.neutral, choice);
    return neutral ? setValue(next, at, node.id, neutral.input, neutral.value) : next;
  });
}
