import type { ReactNode } from 'react';

interface Props {
  /** What it does, for screen readers and on hover. */
  readonly name: string;
  readonly isDisabled?: boolean;
  readonly isPressed?: boolean;
  readonly onClick: () => void;
  readonly children: ReactNode;
}

/** A small button that is an icon, with its name. */
export function IconButton({ name, isDisabled = false, isPressed, onClick, children }: Props) {
  return (
    <button
      type="button"
      aria-label={name}
      title={name}
      aria-pressed={isPressed}
      disabled={isDisabled}
      className={
        'press grid h-[24px] w-[24px] place-items-center rounded-[2px] border border-line ' +
        `disabled:opacity-45 ${isPressed === true ? 'bg-weld text-weld-ink' : 'hover:bg-raised'}`
      }
      onClick={onClick}
    >
      {children}
    </button>
  );
}
