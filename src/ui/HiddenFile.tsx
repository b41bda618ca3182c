'use client';
import type { RefObject } from 'react';

interface Props {
  /** A button clicks it. */
  readonly input: RefObject<HTMLInputElement | null>;
  readonly label: string;
  readonly accept: string;
  readonly onFile: (file: File) => void;
}

/** A file field that a button stands for; the same file may be chosen again. */
export function HiddenFile({ input, label, accept, onFile }: Props) {
  return (
    <input
      ref={input}
      type="file"
      accept={accept}
      aria-label={label}
      className="sr-only"
      tabIndex={-1}
      onChange={(event) => {
        const [file] = event.target.files ?? [];
        event.target.value = '';
        if (file) onFile(file);
      }}
    />
  );
}

/** What a zip is accepted as. */
export const ZIP = '.zip,application/zip';
