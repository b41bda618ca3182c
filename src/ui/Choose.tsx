'use client';
import { Select } from 'radix-ui';
import { Check, ChevronDown } from 'lucide-react';

interface Item {
  readonly value: string;
  readonly title: string;
  readonly help?: string;
}
interface Props {
  readonly value: string;
  readonly items: readonly Item[];
  readonly label: string;
  readonly onChange: (value: string) => void;
}

/** The list keeps the empty text for itself. */
const EMPTY = '\u2205';
const coded = (value: string): string => (value === '' ? EMPTY : value);

/** One of a list, with what each choice means. */
export function Choose({ value, items, label, onChange }: Props) {
  return (
    <Select.Root
      value={coded(value)}
      onValueChange={(next) => {
        onChange(next === EMPTY ? '' : next);
      }}
    >
      <Select.Trigger
        aria-label={label}
        className={
          'inline-flex h-6 min-w-[90px] items-center justify-between gap-1 rounded-[2px] ' +
          'border border-line bg-ground px-1.5 text-[12px]'
        }
      >
        <Select.Value />
        <ChevronDown size={12} />
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={2}
          className={
            'z-50 max-h-[420px] overflow-auto rounded-[2px] border border-seam bg-panel ' +
            'text-ink shadow-lg'
          }
        >
          <Select.Viewport>
            {items.map((item) => (
              <Select.Item
                key={coded(item.value)}
                value={coded(item.value)}
                className={
                  'flex items-baseline gap-2 px-2 py-1 outline-none ' +
                  'data-[highlighted]:bg-raised'
                }
              >
                <span className="w-3">{item.value === value ? <Check size={11} /> : null}</span>
                <Select.ItemText>{item.title}</Select.ItemText>
                {item.help ? <span className="text-[11px] text-soft">{item.help}</span> : null}
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
