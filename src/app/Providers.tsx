'use client';
import { QueryClientProvider } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { ReactNode } from 'react';
import { AppError } from '@/core/base/diagnostic';
import { queryClient } from '@/state/query-client';
import { applyAppearance, readAppearance } from '@/ui/appearance';
import { tellProblem } from '@/ui/tell-problem';

/**
 * What every page shares: what was read from the server, and a last place where failures are told.
 */
export function Providers({ children }: { readonly children: ReactNode }) {
  useEffect(() => {
    applyAppearance(readAppearance());
    document.documentElement.dataset['awake'] = '';
  }, []);
  useEffect(() => {
    const tell = ({ reason }: PromiseRejectionEvent): void => {
      // Workers that end are started again, and that is said where it happens.
      if (reason instanceof AppError && reason.code !== 'worker.lost') tellProblem(reason);
    };
    window.addEventListener('unhandledrejection', tell);
    return () => {
      window.removeEventListener('unhandledrejection', tell);
    };
  }, []);
  return <QueryClientProvider client={queryClient()}>{children}</QueryClientProvider>;
}
