'use client';
import { Fragment } from 'react';
import { DropdownMenu } from 'radix-ui';

/** A line of a menu. */
export interface MenuItem {
  readonly title: string;
  readonly help?: string;
  readonly isOff?: boolean;
  readonly act: () => void;
}

interface Props {
  /** Made when the menu opens; empty sections are left out. */
  readonly sections: () => readonly (readonly MenuItem[])[];
  /** Where the focus goes when it is closed; else back to what opened it. */
  readonly onClosed?: () => void;
}

/** What a menu offers, section by section; stands inside `DropdownMenu.Root` after its trigger. */
export function Menu({ sections, onClosed }: Props) {
  return (
    <DropdownMenu.Portal>
      <DropdownMenu.Content
        align="start"
        sideOffset={4}
        collisionPadding={8}
        className={
          'z-50 max-h-[80vh] min-w-[220px] overflow-auto border border-seam bg-panel py-1 ' +
          'text-[12px] text-ink shadow-lg'
        }
        onCloseAutoFocus={(event) => {
          if (!onClosed) return;
          event.preventDefault();
          onClosed();
        }}
      >
        <Sections sections={sections} />
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  );
}

function Sections({ sections }: Pick<Props, 'sections'>) {
  return sections()
    .filter((items) => items.length > 0)
    .map((items, k) => (
      <Fragment key={items[0]?.title}>
        {k > 0 ? <DropdownMenu.Separator className="my-1 border-t border-line" /> : null}
        {items.map(({ title, help, isOff, act }) => (
          <DropdownMenu.Item
            key={title}
            disabled={isOff === true}
            className={
              'cursor-pointer px-3 py-1 outline-none data-[disabled]:opacity-45 ' +
              'data-[highlighted]:bg-raised'
            }
            onSelect={act}
          >
            {title}
            {help === undefined ? null : (
              <span className="block text-[11px] text-soft">{help}</span>
            )}
          </DropdownMenu.Item>
        ))}
      </Fragment>
    ));
}
