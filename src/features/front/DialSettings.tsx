'use client';
import { ArrowDown, ArrowUp, Trash2, X } from 'lucide-react';
import { moveDial, removeDial } from '@/core/edit/dials';
import { isChoice } from '@/core/graph/document';
import type { Dial, GroupDefinition, InputValue } from '@/core/graph/document';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { commit } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { DriveLine } from './DriveLine';
import { useHomeShare } from './use-home-share';
import { IconButton } from '@/ui/IconButton';

interface Props {
  readonly group: GroupDefinition;
  readonly dial: Dial;
  readonly value: InputValue;
  /** The nodes that lead to the group's card, it included. */
  readonly path: readonly string[];
  readonly evaluation: Evaluation;
  readonly edit: (change: Partial<Dial>) => void;
}

const FIELDS = ['name', 'help', 'unit', 'section'] as const;

/** What the author of a group sets on a dial: words, home, slider, place and what it drives. */
export function DialSettings({ group, dial, value, path, evaluation, edit }: Props) {
  const { said, ask } = useHomeShare(evaluation, path, dial.id);
  return (
    <div className="my-1 border border-line bg-ground/50 p-2 text-[11.5px]">
      {FIELDS.map((field) => (
        <WordField
          key={field}
          title={field}
          label={`Dial ${field}`}
          value={dial[field]}
          onChange={(next) => {
            edit({ [field]: next });
          }}
        />
      ))}
      {dial.kind === 'scalar' ? (
        <NumberSettings
          dial={dial}
          edit={(change) => {
            if (change.home !== undefined) ask(change.home);
            edit(change);
          }}
        />
      ) : null}
      {said ? (
        <p role="status" className="mb-1 text-soft" data-testid="home-share">
          {said}
        </p>
      ) : null}
      {dial.kind === 'choice' ? <ChoiceSettings dial={dial} edit={edit} /> : null}
      <ul className="mb-1">
        {dial.drives.map((drive, k) => (
          <DriveLine
            key={`${drive.node} ${drive.input} ${String(k)}`}
            group={group}
            dial={dial}
            {...{ drive, value, edit }}
          />
        ))}
      </ul>
      <DialButtons group={group} dial={dial} />
    </div>
  );
}

interface WordProps {
  readonly title: string;
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
}
function WordField({ title, label, value, onChange }: WordProps) {
  return (
    <label className="mb-1 flex items-center gap-2">
      <span className="w-12 text-soft">{title}</span>
      <input
        key={value}
        defaultValue={value}
        className="min-w-0 flex-1 border border-line bg-ground px-1"
        aria-label={label}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          event.stopPropagation();
        }}
        onBlur={(event) => {
          if (event.target.value !== value) onChange(event.target.value);
        }}
      />
    </label>
  );
}

type Edited = Pick<Props, 'dial' | 'edit'>;

/** Home, the ends of the slider and what they do, the ends of what may be typed, the step. */
function NumberSettings({ dial, edit }: Edited) {
  const [from, to] = dial.soft;
  const [least, most] = dial.hard;
  const { low = '', high = '' } = dial.ends ?? {};
  const rows: readonly (readonly [string, readonly NumberCell[]])[] = [
    ['home', [['Home', Number(dial.home), (home) => ({ home })]]],
    [
      'slider',
      [
        ['Slider from', from, (next) => (next < to ? { soft: [next, to] } : null)],
        ['Slider to', to, (next) => (next > from ? { soft: [from, next] } : null)],
      ],
    ],
    [
      'typed',
      [
        ['Least typed', least, (next) => (next < most ? { hard: [next, most] } : null)],
        ['Most typed', most, (next) => (next > least ? { hard: [least, next] } : null)],
      ],
    ],
    ['step', [['Step', dial.step, (step) => (step >= 0 ? { step } : null)]]],
  ];
  return (
    <>
      {rows.map(([title, cells]) => (
        <div key={title} className="mb-1 flex items-center gap-2">
          <span className="w-12 text-soft">{title}</span>
          {cells.map(([label, value, change]) => (
            <NumberField
              key={label}
              label={label}
              value={value}
              onCommit={(next) => {
                const made = change(next);
                if (made) edit(made);
              }}
            />
          ))}
        </div>
      ))}
      <WordField
        title="low"
        label="What its low end does"
        value={low}
        onChange={(next) => {
          edit({ ends: { low: next, high } });
        }}
      />
      <WordField
        title="high"
        label="What its high end does"
        value={high}
        onChange={(next) => {
          edit({ ends: { low, high: next } });
        }}
      />
    </>
  );
}
type NumberCell = readonly [
  label: string,
  value: number,
  change: (next: number) => Partial<Dial> | null,
];

/** Which choices are offered, and what they are called outside. */
function ChoiceSettings({ dial, edit }: Edited) {
  const choices = dial.choices ?? [];
  return (
    <fieldset className="mb-1">
      <legend className="text-soft">choices</legend>
      {choices.map((choice) => (
        <div key={choice.value} className="flex items-center gap-1">
          <WordField
            title={choice.value}
            label={`Name of the choice ${choice.value}`}
            value={choice.title}
            onChange={(title) => {
              edit({
                choices: choices.map((each) => (each === choice ? { ...each, title } : each)),
              });
            }}
          />
          <IconButton
            name={`Offer ${choice.title} no more`}
            isDisabled={
              choices.length < 2 || (isChoice(dial.home) && dial.home.choice === choice.value)
            }
            onClick={() => {
              edit({ choices: choices.filter((each) => each !== choice) });
            }}
          >
            <X size={11} />
          </IconButton>
        </div>
      ))}
    </fieldset>
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
