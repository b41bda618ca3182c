'use client';
import { useState } from 'react';
import { FIELD } from '@/ui/Field';

/** Tags as text with commas between. */
export function TagsInput({ onChange }: { readonly onChange: (tags: readonly string[]) => void }) {
  const [text, setText] = useState('');
  const change = (typed: string): void => {
    setText(typed);
    onChange(
      typed
        .split(',')
        .map((tag) => tag.trim())
        .filter(Boolean),
    );
  };
  return (
    <input
      className={FIELD}
      value={text}
      onChange={(event) => {
        change(event.target.value);
      }}
    />
  );
}
