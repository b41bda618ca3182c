'use client';
import { Dialog } from 'radix-ui';
import { X } from 'lucide-react';
import { useEffect } from 'react';
import type { ReactNode } from 'react';

interface Props {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly title: string;
  readonly description: string;
  readonly children: ReactNode;
  readonly width?: number;
  /** Whether what lies under it makes room: an element of the class `makes-room`. */
  readonly docks?: boolean;
}

/** Tells the page how much room a sheet takes at its right. */
function useRoom(width: number | null): void {
  useEffect(() => {
    if (width === null) return;
    const { style } = document.documentElement;
    style.setProperty('--sheet', `${String(width)}px`);
    return () => {
      style.removeProperty('--sheet');
    };
  }, [width]);
}

/** A dialog that slides in over the right part of the window, so that the stage stays visible. */
export function Sheet(props: Props) {
  const { open, onClose, title, description, children, width = 460, docks = false } = props;
  useRoom(open && docks ? width : null);
  return (
    <Dialog.Root
      modal={false}
      open={open}
      onOpenChange={(next) => {
        if (!next) onClose();
      }}
    >
      <Dialog.Portal>
        <Dialog.Content
          className={
            'scaled fixed right-0 bottom-0 z-40 overflow-auto border-l border-seam bg-panel ' +
            `p-4 text-ink ${docks ? 'top-10' : 'top-0 shadow-2xl'}`
          }
          style={{ width }}
          onInteractOutside={(event) => {
            event.preventDefault();
          }}
          onKeyDown={(event) => {
            if (event.key !== 'Escape') event.stopPropagation();
          }}
        >
          <div className="mb-1 flex items-center justify-between">
            <Dialog.Title className="text-[16px] font-semibold">{title}</Dialog.Title>
            <Dialog.Close aria-label="Close" className="p-1">
              <X size={16} />
            </Dialog.Close>
          </div>
          <Dialog.Description className="mb-3 text-soft">{description}</Dialog.Description>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
