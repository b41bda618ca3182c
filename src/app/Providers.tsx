'use client';
import { QueryClientProvider } from '@tanstack/react-query';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { makeQueryClient } from '@/state/query-client';

/** What every page shares: what was read from the server. */
export function Providers({ children }: { readonly children: ReactNode }) {
  const [client] = useState(makeQueryClient);
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}
