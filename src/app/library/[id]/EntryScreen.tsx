'use client';
import { Tabs } from 'radix-ui';
import { useEffect, useState } from 'react';
import { own } from '@/core/base/own';
import { describeNode } from '@/core/compile/catalogue';
import type { EntryView, ReleaseView } from '@/contract/library';
import type { ModelEntry } from '@/contract/models';
import { ArrangeEntry } from '@/features/library/ArrangeEntry';
import { EntryAbout } from '@/features/library/EntryAbout';
import { EntryHead } from '@/features/library/EntryHead';
import { EntryReleases } from '@/features/library/EntryReleases';
import { EntryUsers } from '@/features/library/EntryUsers';
import { ReleasePapers } from '@/features/library/ReleasePapers';
import { showPalettes } from '@/features/presets/Palettes';
import { InputRows } from '@/features/inspector/InputRows';
import { Stage } from '@/features/stage/Stage';
import { VariantStrip } from '@/features/variants/VariantStrip';
import type { Evaluation } from '@/state/evaluation';
import { SHOWN_CARD, openShowcase } from '@/state/showcase';
import { useCard } from '@/state/use-card';
import { Choose } from '@/ui/Choose';
import { ErrorBoundary } from '@/ui/ErrorBoundary';
import { PaletteSlot } from '@/ui/palette-slot';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly entry: EntryView;
  /** The release that is shown; null where the entry has none. */
  readonly release: ReleaseView | null;
  readonly models: readonly ModelEntry[];
}

/** An entry of the library: tried on any model before it is taken, with all there is to know. */
export function EntryScreen({ entry, release, models }: Props) {
  const [isArranging, setArranging] = useState(false);
  return (
    <PaletteSlot value={showPalettes}>
      <div className="flex h-full min-h-0" data-testid="entry">
        {release?.fault === null ? (
          <div className="flex w-[44%] min-w-[420px] flex-col border-r border-line">
            <Trial entryId={entry.id} release={release} models={models} />
          </div>
        ) : null}
        <div className="scaled min-w-0 flex-1 overflow-auto p-4">
          <EntryHead
            entry={entry}
            onEdit={() => {
              setArranging(true);
            }}
          />
          <EntryTabs entry={entry} release={release} />
        </div>
        {isArranging ? (
          <ArrangeEntry
            open
            entry={entry}
            onClose={() => {
              setArranging(false);
            }}
          />
        ) : null}
      </div>
    </PaletteSlot>
  );
}

/** The model on which a group is tried first. */
const FIRST_MODEL = 'demo-study';

/** The stage with the group on it, and its dials below, to be turned. */
function Trial({
  entryId,
  release,
  models,
}: { readonly entryId: string; readonly release: ReleaseView } & Pick<Props, 'models'>) {
  const known = models.filter(({ isArchived }) => !isArchived);
  const [modelId, setModelId] = useState(
    (known.find(({ id }) => id === FIRST_MODEL) ?? known[0])?.id ?? FIRST_MODEL,
  );
  const evaluation = useShowcase(release);
  useEffect(() => {
    const name = models.find(({ id }) => id === modelId)?.name ?? 'Model';
    evaluation?.show(modelId, name).catch(tellProblem);
  }, [evaluation, modelId, models]);
  if (!evaluation) return <p className="p-3 text-soft">Setting the stage …</p>;
  return (
    <>
      <div className="flex items-center gap-2 border-b border-line px-2 py-1 text-[12px]">
        <span className="text-soft">Tried on</span>
        <Choose
          label="Model on the stage"
          value={modelId}
          items={known.map(({ id, name }) => ({ value: id, title: name }))}
          onChange={setModelId}
        />
        <span className="text-soft">Nothing you turn here is saved.</span>
      </div>
      <div className="min-h-0 flex-1">
        <ErrorBoundary name="The stage">
          <Stage evaluation={evaluation} models={models} />
        </ErrorBoundary>
      </div>
      <div className="scaled max-h-[40%] overflow-auto border-t border-line bg-panel p-3">
        <TrialFront entryId={entryId} evaluation={evaluation} />
      </div>
    </>
  );
}

function useShowcase({ groups }: ReleaseView): Evaluation | null {
  const [evaluation, setEvaluation] = useState<Evaluation | null>(null);
  useEffect(() => {
    let isWanted = true;
    const made = openShowcase(groups, '');
    queueMicrotask(() => {
      if (isWanted) setEvaluation(made);
    });
    return () => {
      isWanted = false;
      made.close();
    };
  }, [groups]);
  return evaluation;
}

/** The front as its users see it. */
function TrialFront({
  entryId,
  evaluation,
}: {
  readonly entryId: string;
  readonly evaluation: Evaluation;
}) {
  const { node, group } = useCard(SHOWN_CARD);
  if (!node || !group) return null;
  const dials = (describeNode(node, group)?.inputs ?? []).filter(({ dial }) => dial !== null);
  return (
    <section aria-label="Front" data-testid="trial-front">
      <h2 className="mb-1 text-[12px] font-semibold">
        {dials.length > 0 ? 'Turn its dials' : 'It has no dials'}
      </h2>
      <VariantStrip {...{ group, evaluation, entryId }} card={node} path={[node.id]} />
      <InputRows node={node} ports={dials} board={null} onExpose={null} />
    </section>
  );
}

const TAB =
  'min-h-[24px] border-b-2 border-transparent px-1 text-soft ' +
  'data-[state=active]:border-weld data-[state=active]:text-ink';

/** All there is to know, one part at a time. */
function EntryTabs({ entry, release }: Pick<Props, 'entry' | 'release'>) {
  const proposed = entry.releases.filter(({ state }) => state === 'proposed').length;
  const users = entry.users.length + entry.hiddenUsers;
  const papers = release && own(release.groups.definitions, release.groups.root);
  return (
    <Tabs.Root defaultValue={proposed > 0 && entry.mayReview ? 'releases' : 'about'}>
      <Tabs.List
        aria-label="About this entry"
        className="mt-3 mb-2 flex gap-4 border-b border-line"
      >
        <Tabs.Trigger value="about" className={TAB}>
          Front
        </Tabs.Trigger>
        <Tabs.Trigger value="papers" className={TAB}>
          Proof sheet
        </Tabs.Trigger>
        <Tabs.Trigger value="releases" className={TAB}>
          Releases {proposed > 0 ? `(${String(proposed)} to review)` : ''}
        </Tabs.Trigger>
        <Tabs.Trigger value="users" className={TAB}>
          Used in {users}
        </Tabs.Trigger>
      </Tabs.List>
      <Tabs.Content value="about">{release ? <EntryAbout release={release} /> : null}</Tabs.Content>
      <Tabs.Content value="papers">
        {release && papers ? <ReleasePapers release={release} /> : null}
      </Tabs.Content>
      <Tabs.Content value="releases">
        <EntryReleases entry={entry} />
      </Tabs.Content>
      <Tabs.Content value="users">
        <EntryUsers entry={entry} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
