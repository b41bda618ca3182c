'use client';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { describePorts } from '@/core/compile/catalogue';
import { valueOf } from '@/core/compile/uniforms';
import { findNode } from '@/core/compile/uniforms';
import {
  addDial,
  changeDial,
  drivenValue,
  moveDial,
  offerDial,
  removeDial,
} from '@/core/edit/dials';
import { networkOf, withGroup } from '@/core/edit/board';
import { setValue } from '@/core/edit/nodes';
import { isTriple } from '@/core/graph/document';
import type { Dial, GroupDefinition, Law, NetworkDocument } from '@/core/graph/document';
import type { Picture } from '@/core/evaluate/picture';
import { boardAt, commit, editorStore, endGesture } from '@/state/editor-store';
import type { Evaluation } from '@/state/evaluation';
import { useEditor } from '@/state/use-editor';
import { settled } from '@/workers/answer';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { ColourField } from '@/ui/ColourField';
import { NumberField, shortNumber } from '@/ui/NumberField';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { ValueSlider } from '@/ui/ValueSlider';
import { ProofPanel } from './ProofPanel';

export interface Exposing {
  readonly node: string;
  readonly input: string;
}
interface Props {
  readonly evaluation: Evaluation;
  readonly exposing: Exposing | null;
  readonly onExposed: () => void;
  readonly onPublish: () => void;
}

const LAW_TITLES: Record<Law, string> = {
  times: 'times',
  lift: 'lift',
  span: 'span',
  blend: 'blend',
  'as is': 'as is',
};

/**
 * The outside of the open group, beside its board: dials as its users will see them, and the proof.
 */
export function Front({ evaluation, exposing, onExposed, onPublish }: Props) {
  const document = useEditor((state) => state.document);
  const path = useEditor((state) => state.path);
  const groupId = boardAt(document, path);
  const group = groupId === null ? undefined : document.groups[groupId];
  if (!group) return null;
  const sections = [...new Set(group.dials.map((dial) => dial.section))];
  return (
    <div
      className="flex h-full flex-col overflow-auto border-l border-line bg-panel p-3"
      data-testid="front"
    >
      <input
        aria-label="Group name"
        key={group.id}
        defaultValue={group.name}
        className="bg-transparent text-[15px] font-semibold"
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          event.stopPropagation();
        }}
        onBlur={(event) => {
          const name = event.target.value.trim();
          if (name && name !== group.name)
            commit('Named the group', (current) =>
              withGroup(current, group.id, (each) => ({ ...each, name })),
            );
        }}
      />
      <textarea
        aria-label="Group description"
        key={`d${group.id}`}
        defaultValue={group.description}
        placeholder="What it does, for whoever uses it"
        rows={2}
        className="mb-2 resize-none bg-transparent text-[12px] text-soft"
        onKeyDown={(event) => {
          event.stopPropagation();
        }}
        onBlur={(event) => {
          const description = event.target.value;
          if (description !== group.description)
            commit('Described the group', (current) =>
              withGroup(current, group.id, (each) => ({ ...each, description })),
            );
        }}
      />
      {exposing ? (
        <ExposePanel group={group} exposing={exposing} evaluation={evaluation} onDone={onExposed} />
      ) : null}
      {group.dials.length === 0 && !exposing ? (
        <p className="text-[12px] text-soft">
          No dials yet. Select a card inside and press ⊶ beside a value to pull it out.
        </p>
      ) : null}
      {sections.map((section) => (
        <section key={section} className="mb-2">
          <h3 className="mb-1 border-b border-line text-[12px] font-semibold">{section}</h3>
          {group.dials
            .filter((dial) => dial.section === section)
            .map((dial) => (
              <DialRow key={dial.id} group={group} dial={dial} />
            ))}
        </section>
      ))}
      <div className="mt-auto pt-2">
        <ProofPanel evaluation={evaluation} group={group} />
        <Button look="strong" className="mt-2 w-full justify-center" onClick={onPublish}>
          Publish this group
        </Button>
      </div>
    </div>
  );
}

function DialRow({ group, dial }: { readonly group: GroupDefinition; readonly dial: Dial }) {
  const path = useEditor((state) => state.path);
  const document = useEditor((state) => state.document);
  const [open, setOpen] = useState(false);
  const instance = findNode(document, path);
  const outer = boardAt(document, path.slice(0, -1));
  const typed = instance?.values[dial.id];
  const value = typeof typed === 'number' || isTriple(typed) ? typed : dial.home;
  const changed = JSON.stringify(value) !== JSON.stringify(dial.home);
  const set = (
    next: number | readonly [number, number, number] | undefined,
    gesture: string | null,
  ): void => {
    if (instance)
      commit(
        next === undefined ? `Reset ${dial.name}` : `Set ${dial.name}`,
        (current) => setValue(current, outer, instance.id, dial.id, next),
        gesture,
      );
  };
  const edit = (change: Partial<Dial>): void => {
    commit('Changed a dial', (current) => changeDial(current, group.id, dial.id, change));
  };
  return (
    <div className="py-0.5" data-testid={`dial-${dial.id}`} title={dial.help}>
      <div className="flex items-center gap-1">
        <button
          type="button"
          aria-expanded={open}
          className={`flex-1 truncate text-left text-[12px] ${changed ? 'font-semibold' : ''}`}
          onClick={() => {
            setOpen(!open);
          }}
        >
          {changed ? '• ' : ''}
          {dial.name}
        </button>
        {changed ? (
          <button
            type="button"
            className="text-[11px] underline"
            onClick={() => {
              set(undefined, null);
            }}
          >
            home
          </button>
        ) : null}
        {typeof value === 'number' ? (
          <NumberField
            label={`${dial.name}, number`}
            value={value}
            low={dial.hard[0]}
            high={dial.hard[1]}
            onCommit={(next) => {
              set(next, null);
            }}
          />
        ) : null}
      </div>
      {typeof value === 'number' ? (
        <ValueSlider
          label={dial.name}
          value={value}
          low={dial.soft[0]}
          high={dial.soft[1]}
          step={dial.step || 0.01}
          {...(typeof dial.home === 'number' ? { home: dial.home } : {})}
          onChange={(next) => {
            set(next, `dial ${dial.id}`);
          }}
          onDone={endGesture}
        />
      ) : null}
      {isTriple(value) ? (
        <ColourField
          label={dial.name}
          value={value}
          onChange={(next) => {
            set(next, `dial ${dial.id}`);
          }}
        />
      ) : null}
      {open ? <DialSettings group={group} dial={dial} value={value} edit={edit} /> : null}
    </div>
  );
}

function DialSettings({
  group,
  dial,
  value,
  edit,
}: {
  readonly group: GroupDefinition;
  readonly dial: Dial;
  readonly value: Dial['home'];
  readonly edit: (change: Partial<Dial>) => void;
}) {
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
      {dial.kind === 'scalar' ? (
        <div className="mb-1 flex items-center gap-2">
          <span className="w-12 text-soft">slider</span>
          <NumberField
            label="Slider from"
            value={dial.soft[0]}
            onCommit={(low) => {
              if (low < dial.soft[1]) edit({ soft: [low, dial.soft[1]] });
            }}
          />
          <NumberField
            label="Slider to"
            value={dial.soft[1]}
            onCommit={(high) => {
              if (high > dial.soft[0]) edit({ soft: [dial.soft[0], high] });
            }}
          />
        </div>
      ) : null}
      <ul className="mb-1">
        {dial.drives.map((drive) => {
          const node = group.network.nodes.find((each) => each.id === drive.node);
          const designed = node && valueOf(node, drive.input);
          return (
            <li key={`${drive.node}${drive.input}`} className="flex justify-between gap-1">
              <span className="truncate">
                drives {node?.name ?? node?.id} {drive.input} <em>{LAW_TITLES[drive.law]}</em>
              </span>
              {typeof designed === 'number' &&
              typeof value === 'number' &&
              typeof dial.home === 'number' ? (
                <span className="figures">
                  {shortNumber(designed)} →{' '}
                  {shortNumber(drivenValue(designed, drive, value, dial.home))}
                </span>
              ) : null}
            </li>
          );
        })}
      </ul>
      <div className="flex gap-1">
        <Button
          aria-label="Move the dial up"
          onClick={() => {
            commit('Ordered the dials', (current) => moveDial(current, group.id, dial.id, -1));
          }}
        >
          <ArrowUp size={12} />
        </Button>
        <Button
          aria-label="Move the dial down"
          onClick={() => {
            commit('Ordered the dials', (current) => moveDial(current, group.id, dial.id, 1));
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
    </div>
  );
}

interface Ends {
  readonly law: Law;
  readonly low: Picture;
  readonly high: Picture;
}

/** Pictures of both ends of a dial that is about to be made, one pair per law. */
async function pictureEnds(
  evaluation: Evaluation,
  document: NetworkDocument,
  path: readonly string[],
  groupId: string,
  { node, input }: Exposing,
  laws: readonly Law[],
): Promise<Ends[]> {
  const { modelId, camera } = editorStore.getState();
  const instance = path.at(-1);
  const group = document.groups[groupId];
  const output = group?.outputs[0];
  if (!camera || !instance || !output) return [];
  const key = `${path.join('/')}:${output.id}`;
  const outer = boardAt(document, path.slice(0, -1));
  return Promise.all(
    laws.map(async (law) => {
      const made = addDial(document, groupId, node, input, law, 'trial');
      if (!made) throw new Error('This value cannot be a dial.');
      const dial = made.document.groups[groupId]?.dials.find((each) => each.id === made.dialId);
      const shoot = (value: number): Promise<Picture> =>
        settled(
          evaluation.pool.evaluator.picture(
            modelId,
            setValue(made.document, outer, instance, made.dialId, value),
            key,
            { ...camera, aspect: 1 },
            72,
          ),
        );
      const [from, to] = dial?.soft ?? [0, 2];
      return { law, low: await shoot(from), high: await shoot(to) };
    }),
  );
}

function ExposePanel({
  group,
  exposing,
  evaluation,
  onDone,
}: {
  readonly group: GroupDefinition;
  readonly exposing: Exposing;
  readonly evaluation: Evaluation;
  readonly onDone: () => void;
}) {
  const document = useEditor((state) => state.document);
  const path = useEditor((state) => state.path);
  const offer = offerDial(document, group.id, exposing.node, exposing.input);
  const node = networkOf(document, group.id).nodes.find((each) => each.id === exposing.node);
  const title =
    (node &&
      describePorts(document, node)?.inputs.find((port) => port.id === exposing.input)?.title) ??
    exposing.input;
  const [name, setName] = useState(title);
  const [law, setLaw] = useState<Law>(offer?.laws[0] ?? 'as is');
  const [joined, setJoined] = useState('');
  const [ends, setEnds] = useState<readonly Ends[]>([]);
  const laws = offer?.kind === 'scalar' ? offer.laws : [];
  const lawsKey = laws.join();
  useEffect(() => {
    let live = true;
    if (lawsKey)
      pictureEnds(
        evaluation,
        editorStore.getState().document,
        path,
        group.id,
        exposing,
        lawsKey.split(',') as Law[],
      ).then(
        (made) => {
          if (live) setEnds(made);
        },
        () => undefined,
      );
    return () => {
      live = false;
    };
  }, [evaluation, path, group.id, exposing, lawsKey]);
  if (!offer) return null;
  const make = (): void => {
    if (joined) {
      commit(`Let a dial drive ${title.toLowerCase()}`, (current) => {
        const dial = current.groups[group.id]?.dials.find((each) => each.id === joined);
        const trial = addDial(current, group.id, exposing.node, exposing.input, law, name);
        const drive = trial?.document.groups[group.id]?.dials.at(-1)?.drives[0];
        return dial && drive
          ? changeDial(current, group.id, joined, { drives: [...dial.drives, drive] })
          : current;
      });
    } else
      commit(
        `Made the dial ${name}`,
        (current) =>
          addDial(current, group.id, exposing.node, exposing.input, law, name)?.document ?? current,
      );
    onDone();
  };
  return (
    <div className="mb-3 border border-weld p-2" data-testid="expose">
      <p className="mb-1 text-[12px]">
        Pull out <strong>{title}</strong>
        {typeof offer.designed === 'number' ? (
          <>
            , designed as <span className="figures">{shortNumber(offer.designed)}</span>
          </>
        ) : null}
      </p>
      {offer.warning ? <p className="mb-1 text-[11.5px] text-madder">{offer.warning}</p> : null}
      <label className="mb-1 flex items-center gap-2 text-[12px]">
        <span className="w-10 text-soft">name</span>
        <input
          aria-label="Name of the new dial"
          value={name}
          onChange={(event) => {
            setName(event.target.value);
          }}
          onKeyDown={(event) => {
            event.stopPropagation();
          }}
          className="min-w-0 flex-1 border border-line bg-ground px-1"
        />
      </label>
      <div role="radiogroup" aria-label="Law" className="mb-1 flex flex-col gap-1">
        {offer.laws.map((each) => {
          const pair = ends.find((made) => made.law === each);
          return (
            <button
              key={each}
              type="button"
              role="radio"
              aria-checked={law === each}
              onClick={() => {
                setLaw(each);
              }}
              className={
                'flex items-center gap-2 border p-1 text-left ' +
                (law === each ? 'border-weld' : 'border-line')
              }
            >
              <span className="w-11 text-[12px]">{LAW_TITLES[each]}</span>
              {pair ? (
                <>
                  <PictureCanvas
                    picture={pair.low}
                    label={`${each} at its low end`}
                    className="h-[56px] w-[56px] bg-stage"
                  />
                  <PictureCanvas
                    picture={pair.high}
                    label={`${each} at its high end`}
                    className="h-[56px] w-[56px] bg-stage"
                  />
                </>
              ) : null}
            </button>
          );
        })}
      </div>
      {group.dials.some((dial) => dial.kind === offer.kind) ? (
        <div className="mb-1 flex items-center gap-2 text-[12px]">
          <span className="text-soft">as</span>
          <Choose
            label="New dial or one there is"
            value={joined || 'new'}
            onChange={(choice) => {
              setJoined(choice === 'new' ? '' : choice);
            }}
            items={[
              { value: 'new', title: 'a new dial' },
              ...group.dials
                .filter((dial) => dial.kind === offer.kind)
                .map((dial) => ({ value: dial.id, title: `part of ${dial.name}` })),
            ]}
          />
        </div>
      ) : null}
      <div className="flex gap-1">
        <Button look="strong" onClick={make}>
          {joined ? 'Add to the dial' : 'Make the dial'}
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
    </div>
  );
}
