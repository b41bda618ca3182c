'use client';
import { setValue } from '@/core/edit/nodes';
import type { NodeInstance } from '@/core/graph/document';
import type { StartingPoint } from '@/core/nodes/define';
import { focusBoard } from '@/ui/focus-board';
import { Choose } from '@/ui/Choose';
import { commit } from '@/state/editing';

const NONE = 'start from';

/** Sets several values at once; what is wired or driven stays so. */
export function StartMenu({
  node,
  starts,
}: {
  readonly node: NodeInstance;
  readonly starts: readonly StartingPoint[];
}) {
  const take = (title: string): void => {
    const start = starts.find((each) => each.title === title);
    if (start)
      commit(`Started from ${title.toLowerCase()}`, (document, board) =>
        Object.entries(start.values).reduce(
          (current, [input, value]) => setValue(current, board, node.id, input, value),
          document,
        ),
      );
  };
  return (
    <Choose
      focusAfter={focusBoard}
      label="Start from"
      value={NONE}
      items={[
        { value: NONE, title: 'Start from …' },
        ...starts.map(({ title }) => ({ value: title, title })),
      ]}
      onChange={take}
    />
  );
}
