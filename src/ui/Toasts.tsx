'use client';
import { Toaster } from 'sonner';

export function Toasts() {
  return (
    <Toaster
      position="bottom-left"
      theme="dark"
      toastOptions={{
        style: {
          background: 'var(--line)',
          color: 'var(--ink)',
          border: '1px solid var(--seam)',
          borderRadius: 2,
          fontFamily: 'var(--font-sans)',
        },
      }}
    />
  );
}
