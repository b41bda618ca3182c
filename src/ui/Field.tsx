import type { ReactNode } from 'react';

interface Props {
  readonly label: string;
  /** What is wrong with what was typed. */
  readonly fault: string | undefined;
  readonly className?: string;
  readonly children: ReactNode;
}

/** A labelled field of a form, with what is wrong with it below. */
export function Field({ label, fault, className = '', children }: Props) {
  return (
    <label className={`block ${className}`}>
      {label}
      {children}
      {fault ? (
        <span role="alert" className="block text-[12px] text-madder">
          {fault}
        </span>
      ) : null}
    </label>
  );
}

export const FIELD = 'w-full border border-line bg-ground px-2 py-1';
