import '@fontsource-variable/instrument-sans';
import '@fontsource-variable/spline-sans-mono';
import '@xyflow/react/dist/style.css';
import './globals.css';
import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Toasts } from '@/ui/Toasts';
import { Providers } from './Providers';

export const metadata: Metadata = {
  title: 'Bright Loom',
  description: 'Procedural material networks for the studio.',
};
// Pages carry a nonce of their own, so none is made in advance.
export const dynamic = 'force-dynamic';

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" data-theme="basalt" suppressHydrationWarning>
      <body>
        <Providers>{children}</Providers>
        <Toasts />
      </body>
    </html>
  );
}
