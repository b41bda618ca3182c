import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from '@/ui/Button';

/** A word beside an icon, where the stage is wide enough for it. */
export function Word({ children }: { readonly children: ReactNode }) {
  return <span className="hidden @min-[540px]:inline">{children}</span>;
}

/** A panel of the stage behind a button with an icon. */
export function StagePopover({
  title,
  word,
  icon,
  onOpenChange,
  children,
}: {
  readonly title: string;
  /** What stands beside the icon. */
  readonly word: string;
  readonly icon: ReactNode;
  readonly onOpenChange?: (isOpen: boolean) => void;
  readonly children: ReactNode;
}) {
  return (
    <Popover.Root {...(onOpenChange ? { onOpenChange } : {})}>
      <Popover.Trigger asChild>
        <Button look="quiet" className="!px-1.5" aria-label={title} title={title}>
          {icon} <Word>{word}</Word>
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={6}
          className={
            'z-40 w-[330px] rounded-[2px] border border-seam bg-panel p-2 text-[12px] ' +
            'text-ink shadow-lg'
          }
          aria-label={title}
          onKeyDown={(event) => {
            if (event.key !== 'Escape') event.stopPropagation();
          }}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
