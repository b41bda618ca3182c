'use client';
import Link from 'next/link';
import type { ReactNode } from 'react';

const BAR = 'scaled flex h-10 shrink-0 items-center gap-3 border-b border-line bg-panel px-3';

/** The slim bar at the top of every screen. */
export function TopBar({
  here,
  children,
}: {
  readonly here: 'materials' | 'models' | 'library' | 'work' | 'people' | 'storage' | 'editor';
  readonly children?: ReactNode;
}) {
  const link = (name: string, href: string, active: boolean): ReactNode => (
    <Link
      href={href}
      className={`px-1 ${active ? 'border-b-2 border-weld' : 'text-soft hover:text-ink'}`}
    >
      {name}
    </Link>
  );
  return (
    <header className={BAR}>
      <span className="flex shrink-0 items-center gap-2 font-semibold whitespace-nowrap">
        <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden>
          <path d="M2 1V15M6 1V15M10 1V15M14 1V15" stroke="var(--ink-soft)" strokeWidth="1.2" />
          <path
            d="M1 4H15M1 8H15M1 12H15"
            stroke="var(--weld)"
            strokeWidth="1.6"
            strokeDasharray="4 2"
          />
        </svg>
        Bright Loom
      </span>
      <nav className={`flex gap-3 ${here === 'editor' ? 'text-[12px]' : ''}`}>
        {link('Materials', '/materials', here === 'materials')}
        {link('Models', '/models', here === 'models')}
        {link('Library', '/library', here === 'library')}
        {link('Work', '/work', here === 'work')}
      </nav>
      {children}
    </header>
  );
}
