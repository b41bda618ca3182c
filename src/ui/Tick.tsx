'use client';
import { Check } from 'lucide-react';
import { Checkbox } from 'radix-ui';
import { useId } from 'react';

/** A choice that is on or off, with its name and what it means. */
export function Tick({
  title,
  help,
  isOn,
  onChange,
}: {
  readonly title: string;
  readonly help?: string;
  readonly isOn: boolean;
  readonly onChange: (isOn: boolean) => void;
}) {
  const id = useId();
  return (
    <div className="flex items-center gap-2">
      <Checkbox.Root
        id={id}
        checked={isOn}
        onCheckedChange={(next) => {
          onChange(next === true);
        }}
        className="grid h-[24px] w-[24px] shrink-0 place-items-center border border-line bg-stage"
      >
        <Checkbox.Indicator>
          <Check size={14} aria-hidden />
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} title={help}>
        {title}
      </label>
    </div>
  );
}
