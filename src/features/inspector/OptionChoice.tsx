'use client';
import type { OptionDefinition } from '@/core/nodes/define';
import { focusBoard } from '@/ui/focus-board';
import { Choose } from '@/ui/Choose';
import { useStage } from '@/state/use-stores';

/**
 * One mode of a node; where names of the model may be chosen, those it has, and the one chosen even
 * if it has it not.
 */
export function OptionChoice({
  option,
  value,
  onChange,
}: {
  readonly option: OptionDefinition;
  readonly value: string;
  readonly onChange: (value: string) => void;
}) {
  const model = useStage((state) => state.model);
  const named = option.open ? (model?.[option.open] ?? []) : [];
  const isMissing =
    option.open !== undefined &&
    value !== '' &&
    model !== null &&
    !named.includes(value) &&
    !option.choices.some((choice) => choice.value === value);
  const items = [
    ...option.choices,
    ...named.map((name) => ({ value: name, title: name, help: '' })),
    ...(isMissing ? [{ value, title: value, help: 'This model has none of that name.' }] : []),
  ];
  return (
    <span className="flex items-center gap-1">
      <Choose
        label={option.title}
        value={value}
        items={items}
        onChange={onChange}
        focusAfter={focusBoard}
      />
      {isMissing ? (
        <span role="status" className="text-[11px] text-madder">
          This model has no “{value}”.
        </span>
      ) : null}
    </span>
  );
}
