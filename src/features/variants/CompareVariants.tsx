'use client';
import { useState } from 'react';
import { own } from '@/core/base/own';
import { boardAt } from '@/core/edit/board';
import { blendValues, fullValues, isSameValue, movedDials, setDials } from '@/core/edit/variants';
import type { DialValues } from '@/core/edit/variants';
import { valueText } from '@/core/edit/equation';
import { pictureShare } from '@/core/notes/group-painter';
import type { SharedPicture } from '@/core/notes/group-painter';
import type { GroupDefinition, NodeInstance } from '@/core/graph/document';
import { commit, endGesture } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { useGroupPictures } from '@/state/group-pictures';
import { Choose } from '@/ui/Choose';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { ValueSlider } from '@/ui/ValueSlider';
import { shareText } from '@/ui/papers/SheetLines';

interface Props {
  readonly group: GroupDefinition;
  readonly card: NodeInstance;
  readonly path: readonly string[];
  readonly evaluation: Evaluation;
}

/** A state of the front that can be compared: home, a variant, or as it was when it was chosen. */
interface FrontState {
  readonly key: string;
  readonly title: string;
  readonly values: DialValues;
}

/** Two states of the front beside each other, with what sets them apart, and all between them. */
export function CompareVariants({ group, card, path, evaluation }: Props) {
  const [chosen, setChosen] = useState<readonly [FrontState, FrontState] | null>(null);
  const now = movedDials(group, card);
  const states: readonly FrontState[] = [
    { key: 'home', title: 'home', values: {} },
    { key: 'now', title: 'as it stands now', values: now },
    ...(group.variants ?? []).map(({ id, name, values }) => ({ key: id, title: name, values })),
  ];
  const choose = (place: 0 | 1, key: string): void => {
    const state = states.find((each) => each.key === key);
    const [first, second] = chosen ?? [states[0], states[1]];
    if (!state || !first || !second) return;
    setChosen(place === 0 ? [state, second] : [first, state]);
  };
  return (
    <div className="mt-1 border-t border-line pt-1">
      <div className="flex items-center gap-1">
        {(['Compare', 'with'] as const).map((word, place) => (
          <span key={word} className="flex min-w-0 flex-1 items-center gap-1">
            <span className="text-soft">{word}</span>
            <Choose
              label={place === 0 ? 'First state of the front' : 'Second state of the front'}
              value={chosen?.[place as 0 | 1].key ?? (place === 0 ? 'home' : 'now')}
              items={states.map(({ key, title }) => ({ value: key, title }))}
              onChange={(key) => {
                choose(place as 0 | 1, key);
              }}
            />
          </span>
        ))}
      </div>
      {chosen ? <Compared {...{ group, card, path, evaluation }} states={chosen} /> : null}
    </div>
  );
}

function Compared({
  group,
  card,
  path,
  evaluation,
  states,
}: Props & { readonly states: readonly [FrontState, FrontState] }) {
  const [share, setShare] = useState(0);
  const [first, second] = states;
  const [a, b] = useGroupPictures(evaluation, group, path, [first.values, second.values], 104);
  const [from, to] = [fullValues(group, first.values), fullValues(group, second.values)];
  const apart = group.dials.filter(({ id }) => !isSameValue(own(from, id), own(to, id)));
  const blend = (next: number): void => {
    setShare(next);
    const values = blendValues(group, first.values, second.values, next);
    commit(
      'Blended two states of the front',
      (current) => setDials(current, boardAt(current, path.slice(0, -1)), card.id, values),
      'blend',
    );
  };
  return (
    <div data-testid="compared">
      <TwoPictures pictures={[a, b]} titles={[first.title, second.title]} />
      <ul className="text-soft">
        {apart.map(({ id, name }) => (
          <li key={id} className="truncate">
            {name}: {valueText(own(from, id))} → {valueText(own(to, id))}
          </li>
        ))}
      </ul>
      <div className="flex items-center gap-2">
        <span className="text-soft">between them</span>
        <span className="min-w-0 flex-1">
          <ValueSlider
            label="How far from the first to the second"
            value={share}
            low={0}
            high={1}
            step={0.01}
            onChange={blend}
            onDone={endGesture}
          />
        </span>
        <span className="figures">{share.toFixed(2)}</span>
      </div>
    </div>
  );
}

interface TwoProps {
  readonly pictures: readonly (SharedPicture | undefined)[];
  readonly titles: readonly [string, string];
}

/** Two pictures side by side, and how much of them is apart. */
function TwoPictures({ pictures: [a, b], titles }: TwoProps) {
  return (
    <>
      <div className="mt-1 flex gap-1">
        {[a, b].map((made, k) => (
          <PictureCanvas
            key={k === 0 ? 'first' : 'second'}
            picture={made?.picture}
            label={titles[k as 0 | 1]}
            className="h-[104px] w-[104px] bg-stage"
          />
        ))}
      </div>
      {a && b ? (
        <p className="figures">{shareText(pictureShare(a.picture, b.picture))} of the picture</p>
      ) : null}
    </>
  );
}
