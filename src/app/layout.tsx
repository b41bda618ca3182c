import '@fontsource-variable/instrument-sans';
import '@fontsource-variable/spline-sans-mono';
import '@xyflow/react/dist/style.css';
import './globals.css';
import './board.css';
import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import { APPEARANCE_COOKIE, parseAppearance } from '@/ui/appearance';
import { Toasts } from '@/ui/Toasts';
import { Providers } from './Providers';

export const metadata: Metadata = {
  title: 'Bright Loom',
  description: 'Procedural material networks for the studio.',
};
// Pages carry a nonce of their own, so none is made in advance.
export const dynamic = 'force-dynamic';

export default async function RootLayout({ children }: { children: ReactNode }) {
  const kept = (await cookies()).get(APPEARANCE_COOKIE)?.value;
  const { theme = 'basalt', density } = parseAppearance(kept);
  return (
    <html lang="en" data-theme={theme} data-density={density} suppressHydrationWarning>
      <body>
        <Providers>{children}</Providers>
        <Toasts />
      </body>
    </html>
  );
}
