'use client';
import { DropdownMenu } from 'radix-ui';
import { listParts, openPart } from '@/core/edit/expose-parts';
import { getNetwork } from '@/core/edit/board';
import { commit } from '@/state/editing';
import { stores } from '@/state/stores';
import { useBoardId } from '@/state/use-card';
import { Menu } from '@/ui/Menu';
import type { MenuItem } from '@/ui/Menu';
import type { Expose } from './use-expose';

interface Props {
  readonly node: string;
  readonly onExpose: Expose;
}

/** Makes a single stop of a ramp, or a number in a formula, a dial: opens it and pulls it out. */
export function PartMenu({ node: id, onExpose }: Props) {
  const board = useBoardId();
  const items = (): readonly MenuItem[] => {
    const { document } = stores.document.getState();
    const node = getNetwork(document, board).nodes.find((each) => each.id === id);
    const parts = node ? listParts(document, board, node) : [];
    return parts.map((part) => ({
      title: part.title,
      act: () => {
        commit(`Opened ${part.title.toLowerCase()}`, (current, at) => openPart(current, at, part));
        onExpose(id, part.input);
      },
    }));
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className="min-h-[24px] border border-line px-1.5 text-[11.5px] hover:border-seam"
        title="A single stop of a ramp, or a number in a formula, as a dial of the group"
      >
        ⊶ a part of it …
      </DropdownMenu.Trigger>
      <Menu sections={() => [items()]} />
    </DropdownMenu.Root>
  );
}
