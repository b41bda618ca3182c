'use client';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { getInputValue } from '@/core/compile/uniforms';
import { drivenValue, moveDial, removeDial } from '@/core/edit/dials';
import type { Dial, Drive, GroupDefinition } from '@/core/graph/document';
import { Button } from '@/ui/Button';
import { NumberField, shortNumber } from '@/ui/NumberField';
import { commit } from '@/state/editing';

interface Props {
  readonly group: GroupDefinition;
  readonly dial: Dial;
  readonly value: Dial['home'];
  readonly edit: (change: Partial<Dial>) => void;
}

/** What the author of a group sets on a dial: words, slider, place and what it drives. */
export function DialSettings({ group, dial, value, edit }: Props) {
  return (
    <div className="my-1 border border-line bg-ground/50 p-2 text-[11.5px]">
      {(['name', 'help', 'unit', 'section'] as const).map((field) => (
        <label key={field} className="mb-1 flex items-center gap-2">
          <span className="w-12 text-soft">{field}</span>
          <input
            defaultValue={dial[field]}
            className="min-w-0 flex-1 border border-line bg-ground px-1"
            aria-label={`Dial ${field}`}
            onKeyDown={(event) => {
              if (event.key === 'Enter') event.currentTarget.blur();
              event.stopPropagation();
            }}
            onBlur={(event) => {
              if (event.target.value !== dial[field]) edit({ [field]: event.target.value });
            }}
          />
        </label>
      ))}
      {dial.kind === 'scalar' ? <SliderEnds dial={dial} edit={edit} /> : null}
      <ul className="mb-1">
        {dial.drives.map((drive, k) => (
          <DriveLine
            key={`${drive.node} ${drive.input} ${String(k)}`}
            group={group}
            dial={dial}
            drive={drive}
            value={value}
          />
        ))}
      </ul>
      <DialButtons group={group} dial={dial} />
    </div>
  );
}

function SliderEnds({ dial, edit }: Pick<Props, 'dial' | 'edit'>) {
  const [from, to] = dial.soft;
  return (
    <div className="mb-1 flex items-center gap-2">
      <span className="w-12 text-soft">slider</span>
      <NumberField
        label="Slider from"
        value={from}
        onCommit={(low) => {
          if (low < to) edit({ soft: [low, to] });
        }}
      />
      <NumberField
        label="Slider to"
        value={to}
        onCommit={(high) => {
          if (high > from) edit({ soft: [from, high] });
        }}
      />
    </div>
  );
}

function DriveLine({ group, dial, drive, value }: Omit<Props, 'edit'> & { readonly drive: Drive }) {
  const node = group.network.nodes.find((each) => each.id === drive.node);
  const designed = node && getInputValue(node, drive.input);
  return (
    <li className="flex justify-between gap-1">
      <span className="truncate">
        drives {node?.name ?? drive.node} {drive.input} <em>{drive.law}</em>
      </span>
      {typeof designed === 'number' &&
      typeof value === 'number' &&
      typeof dial.home === 'number' ? (
        <span className="figures">
          {shortNumber(designed)} → {shortNumber(drivenValue(designed, drive, value, dial.home))}
        </span>
      ) : null}
    </li>
  );
}

function DialButtons({ group, dial }: Pick<Props, 'group' | 'dial'>) {
  const move = (by: -1 | 1): void => {
    commit('Ordered the dials', (current) => moveDial(current, group.id, dial.id, by));
  };
  return (
    <div className="flex gap-1">
      <Button
        aria-label="Move the dial up"
        onClick={() => {
          move(-1);
        }}
      >
        <ArrowUp size={12} />
      </Button>
      <Button
        aria-label="Move the dial down"
        onClick={() => {
          move(1);
        }}
      >
        <ArrowDown size={12} />
      </Button>
      <Button
        aria-label="Remove the dial"
        onClick={() => {
          commit('Removed a dial', (current) => removeDial(current, group.id, dial.id));
        }}
      >
        <Trash2 size={12} />
      </Button>
    </div>
  );
}
