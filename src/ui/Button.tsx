import type { ButtonHTMLAttributes } from 'react';

type Look = 'plain' | 'strong' | 'quiet';
const LOOKS: Record<Look, string> = {
  plain: 'bg-raised hover:bg-seam border-line',
  strong: 'bg-weld text-weld-ink border-weld font-semibold hover:brightness-110',
  quiet: 'bg-transparent hover:bg-raised border-transparent',
};

export function Button({
  look = 'plain',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }) {
  return (
    <button
      type="button"
      className={
        'inline-flex items-center gap-1.5 rounded-[2px] border px-2.5 py-1 ' +
        `disabled:opacity-45 ${LOOKS[look]} ${className}`
      }
      {...rest}
    />
  );
}
