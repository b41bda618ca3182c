'use client';
import { fromHex, toHex } from '@/core/surface/colour-science';
import type { Triple } from '@/core/graph/document';
import { NumberField } from './NumberField';

interface Props {
  readonly value: Triple;
  readonly label: string;
  readonly onChange: (value: Triple) => void;
  readonly compact?: boolean;
}

/** A colour in linear light, chosen in sRGB; numbers are linear and may pass 1. */
export function ColourField({ value, label, onChange, compact = false }: Props) {
  return (
    <span className="flex items-center gap-1">
      <input
        type="color"
        aria-label={label}
        value={toHex(value)}
        className="h-[24px] w-8 shrink-0 border border-line bg-ground p-0"
        onChange={(event) => {
          const colour = fromHex(event.target.value);
          if (colour) onChange(colour);
        }}
        onKeyDown={(event) => {
          event.stopPropagation();
        }}
      />
      {!compact &&
        (['red', 'green', 'blue'] as const).map((name, k) => (
          <NumberField
            key={name}
            label={`${label} ${name}`}
            value={value[k] ?? 0}
            className="!w-[66px]"
            onCommit={(next) => {
              onChange(value.map((old, c) => (c === k ? next : old)) as unknown as Triple);
            }}
          />
        ))}
    </span>
  );
}
