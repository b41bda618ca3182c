'use client';
import { LONGEST_SET_NAME } from '@/contract/sets';
import { MoreHorizontal } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import type { MaterialSet } from '@/contract/materials';
import { Menu } from '@/ui/Menu';
import { NameField } from '@/ui/NameField';
import { SET_ACTS } from './set-acts';

interface Props {
  readonly set: MaterialSet;
  readonly onGone: () => void;
}

/** What can be done with a set: another name, or taking it apart. */
export function SetMenu({ set, onGone }: Props) {
  const { rename, remove } = SET_ACTS;
  const [isNaming, setNaming] = useState(false);
  if (isNaming)
    return (
      <NameField
        longest={LONGEST_SET_NAME}
        label={`New name of ${set.name}`}
        act="Rename"
        name={set.name}
        onName={(name) => {
          setNaming(false);
          if (name !== null && name !== set.name) rename(set, name);
        }}
      />
    );
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`What to do with the set ${set.name}`}
        className="grid h-[24px] w-[24px] shrink-0 place-items-center text-soft hover:text-ink"
      >
        <MoreHorizontal size={14} aria-hidden />
      </DropdownMenu.Trigger>
      <Menu
        sections={() => [
          [
            {
              title: 'Rename …',
              act: () => {
                setNaming(true);
              },
            },
            {
              title: 'Take apart',
              help: 'Its materials stay in the project',
              act: () => {
                remove(set, onGone);
              },
            },
          ],
        ]}
      />
    </DropdownMenu.Root>
  );
}
