'use client';
import { useMemo, useState } from 'react';
import type { MaterialSummary } from '@/contract/materials';
import type { ModelEntry } from '@/contract/models';
import type { StateView } from '@/contract/states';
import { boardAt, getNetwork } from '@/core/edit/board';
import { findCardPath } from '@/core/edit/group-uses';
import { isMark } from '@/core/edit/marks';
import type { ComparedStates } from '@/core/evaluate/state-comparer';
import { sideKey } from '@/state/compared-sides';
import { useComparison } from '@/state/comparing';
import type { Comparison } from '@/state/comparing';
import { goTo } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { useOtherReleases } from '@/state/placed-releases';
import { useMaterialSearch } from '@/state/material-list';
import { stores } from '@/state/stores';
import { useDocument, useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { MaterialChoice } from '@/ui/MaterialChoice';
import { ProblemNote } from '@/ui/ProblemNote';
import { Tick } from '@/ui/Tick';
import { ChangeList } from '@/ui/compare/ChangeList';
import { Wipe } from '@/ui/compare/Wipe';
import { sideChoices } from './side-choices';
import type { SideChoice, Sides } from './side-choices';

interface Props {
  readonly evaluation: Evaluation;
  readonly models: readonly ModelEntry[];
  readonly states: readonly StateView[];
  readonly sides: Sides;
  readonly onSides: (sides: Sides) => void;
}

/** All that the open material can be compared with at the moment. */
function useChoices(
  states: readonly StateView[],
  materials: readonly MaterialSummary[],
  given: Sides,
): readonly SideChoice[] {
  const releases = useOtherReleases();
  const steps = useDocument((state) => state.past.length);
  const revision = useDocument((state) => state.revision);
  const document = useDocument((state) => state.document);
  const selection = useView((state) => state.selection);
  const path = useView((state) => state.path);
  return useMemo(() => {
    const sides = [given.before, given.after].flatMap((side) =>
      side?.of === 'revision' ? [side.number] : [],
    );
    const chosen = selection.filter((id) => !isMark(id));
    const { nodes } = getNetwork(document, boardAt(document, path));
    const groups = chosen.filter((id) => nodes.find((node) => node.id === id)?.type === 'group');
    return sideChoices({ states, materials, releases, steps, revision, sides, chosen, groups });
  }, [states, given, materials, releases, steps, revision, document, selection, path]);
}

/** Two states as pictures, as figures, and as the list of what makes the difference. */
export function CompareStates({ evaluation, models, states, sides, onSides }: Props) {
  const [materials, setMaterials] = useState<readonly MaterialSummary[]>([]);
  const choices = useChoices(states, materials, sides);
  const [own, setOwn] = useState(false);
  const { before, after } = sides;
  const comparison = useComparison(before && { evaluation, models, states, before, after, own });
  const choose = (place: keyof Sides) => (value: string) => {
    const found = choices.find((each) => each.value === value);
    onSides({ ...sides, [place]: found?.side ?? null });
  };
  const chooseMaterial = (place: keyof Sides) => (material: MaterialSummary) => {
    setMaterials((now) => [...now.filter(({ id }) => id !== material.id), material]);
    onSides({ ...sides, [place]: { of: 'material', id: material.id } });
  };
  const titleOf = (side: Sides['before']): string =>
    choices.find(({ value }) => side && value === sideKey(side))?.title ?? '';
  return (
    <section aria-label="Compare two states" className="flex flex-col gap-2">
      <div className="flex flex-col items-start gap-2 text-[12px]">
        <SideChoiceRow
          name="A"
          value={before ? sideKey(before) : ''}
          choices={[{ value: '', title: 'Choose a state' }, ...choices]}
          onChoose={choose('before')}
          onMaterial={chooseMaterial('before')}
        />
        <SideChoiceRow
          name="B"
          value={sideKey(after)}
          choices={choices}
          onChoose={choose('after')}
          onMaterial={chooseMaterial('after')}
        />
        <Tick
          title="Each from its own camera"
          help="Kept states as they were seen; else both as the stage is seen now"
          isOn={own}
          onChange={setOwn}
        />
      </div>
      {before ? (
        <Compared
          comparison={comparison}
          titles={[titleOf(before) || 'A', titleOf(after) || 'B']}
        />
      ) : (
        <p className="text-[12px] text-soft">
          Choose what A is, and every change between the two is listed with its share of the
          difference.
        </p>
      )}
    </section>
  );
}

interface SideProps {
  readonly name: 'A' | 'B';
  readonly value: string;
  readonly choices: readonly Omit<SideChoice, 'side'>[];
  readonly onChoose: (value: string) => void;
  readonly onMaterial: (material: MaterialSummary) => void;
}

/** What one side of the comparison is: a state of this material, or another material. */
function SideChoiceRow({ name, value, choices, onChoose, onMaterial }: SideProps) {
  const search = useMaterialSearch(useDocument((state) => state.materialId));
  return (
    <span className="flex items-center gap-2">
      <span className="w-3 font-semibold">{name}</span>
      <Choose label={`State ${name}`} value={value} items={choices} onChange={onChoose} />
      <MaterialChoice
        label={`Another material as ${name}`}
        title="another material …"
        search={search}
        onChoose={onMaterial}
      />
    </span>
  );
}

const percent = (share: number): string => `${(share * 100).toFixed(share < 0.1 ? 2 : 1)} %`;

function Compared({
  comparison: { compared, changes, sum, problem },
  titles: [beforeTitle, afterTitle],
}: {
  readonly comparison: Comparison;
  readonly titles: readonly [string, string];
}) {
  if (problem) return <ProblemNote problem={problem} />;
  if (!compared) return <p role="status">Drawing both …</p>;
  const { pictures, difference } = compared;
  return (
    <>
      <Wipe
        isLarge
        before={pictures[0]}
        after={pictures[1]}
        beforeTitle={`A: ${beforeTitle}`}
        afterTitle={`B: ${afterTitle}`}
        label="the two states"
      />
      <Button
        className="self-start"
        title="A crop of it stays on the stage while you work"
        onClick={() => {
          stores.view.setState({ keptSight: { picture: pictures[0], title: beforeTitle } });
        }}
      >
        Keep A in sight
      </Button>
      <DifferenceFigures difference={difference} />
      <ChangeList
        changes={changes.map(({ change, share, isMeasured, restore }) => ({
          ...change,
          share,
          isMeasured,
          onRestore: restore,
          onShow:
            change.node === null
              ? null
              : () => {
                  show(change);
                },
        }))}
      />
      {sum === null || changes.length < 2 ? null : <Together sum={sum} />}
    </>
  );
}

/** How far the two pictures are apart. */
function DifferenceFigures({ difference }: Pick<ComparedStates, 'difference'>) {
  return (
    <p className="text-[12px]" data-testid="difference">
      {difference.share === 0 ? (
        'The pictures are the same.'
      ) : (
        <>
          <b className="figures">{percent(difference.share)}</b> of the pixels differ; mean{' '}
          <b className="figures">{percent(difference.mean)}</b>, most{' '}
          <b className="figures">{percent(difference.largest)}</b>; to the eye{' '}
          <b
            className="figures"
            title="Mean distance in Oklab (ΔEOK, CSS Color 4): 0.02 is just noticeable"
          >
            {difference.perceptual.toFixed(4)}
          </b>{' '}
          (0.02 is just noticeable).
        </>
      )}
    </p>
  );
}

/** What the sum of the shares says of how the changes act on each other. */
function Together({ sum }: { readonly sum: number }) {
  const apart = Math.abs(sum - 1) < 0.1;
  return (
    <p className="text-[12px] text-soft">
      Undone one by one they account for <span className="figures">{percent(sum)}</span>:{' '}
      {apart
        ? 'they act apart.'
        : sum < 1
          ? 'some stand in for each other, or hide each other.'
          : 'some only show together.'}
    </p>
  );
}

/** Leads to where a change is. */
function show({ board, node }: Comparison['changes'][number]['change']): void {
  const { document } = stores.document.getState();
  const path = board === null ? [] : findCardPath(document, board);
  if (path && node !== null) goTo(path, { node });
}
