'use client';
import { Select } from 'radix-ui';
import { Check, ChevronDown } from 'lucide-react';
import { useRef } from 'react';

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
  /** Where the focus goes after a choice; else it stays on the list. */
  readonly focusAfter?: () => void;
}

/** The list keeps the empty text for itself. */
const EMPTY = '\u2205';
const coded = (value: string): string => (value === '' ? EMPTY : value);

/** One of a list, with what each choice means. */
export function Choose({ value, items, label, onChange, focusAfter }: Props) {
  const hasChosen = useRef(false);
  return (
    <Select.Root
      value={coded(value)}
      onValueChange={(next) => {
        hasChosen.current = true;
        onChange(next === EMPTY ? '' : next);
      }}
    >
      <Select.Trigger
        aria-label={label}
        className={
          'inline-flex h-[24px] min-w-[90px] items-center justify-between gap-1 rounded-[2px] ' +
          'border border-line bg-ground px-1.5 text-[12px] whitespace-nowrap'
        }
        onKeyDown={(event) => {
          // A letter meant for something else must not change what is chosen here.
          if (event.key.length === 1 && event.key !== ' ') event.preventDefault();
        }}
      >
        <Select.Value />
        <ChevronDown size={12} />
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={2}
          onCloseAutoFocus={(event) => {
            if (focusAfter && hasChosen.current) {
              event.preventDefault();
              focusAfter();
            }
            hasChosen.current = false;
          }}
          className={
            'z-50 max-h-[420px] overflow-auto rounded-[2px] border border-seam bg-panel ' +
            'text-ink shadow-lg'
          }
        >
          <Items items={items} value={value} />
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}

function Items({ items, value }: Pick<Props, 'items' | 'value'>) {
  return (
    <Select.Viewport>
      {items.map((item) => (
        <Select.Item
          key={coded(item.value)}
          value={coded(item.value)}
          className={
            'flex items-baseline gap-2 px-2 py-1 outline-none data-[highlighted]:bg-raised'
          }
        >
          <span className="w-3">{item.value === value ? <Check size={11} /> : null}</span>
          <Select.ItemText>{item.title}</Select.ItemText>
          {item.help ? <span className="text-[11px] text-soft">{item.help}</span> : null}
        </Select.Item>
      ))}
    </Select.Viewport>
  );
}
