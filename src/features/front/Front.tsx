'use client';
import type { ComponentType } from 'react';
import { own } from '@/core/base/own';
import { describeNode } from '@/core/compile/catalogue';
import { findNode } from '@/core/compile/uniforms';
import { withGroup } from '@/core/edit/board';
import { dialSections } from '@/core/edit/group-papers';
import { cardOf } from '@/core/edit/sheet-plan';
import { resetInputs } from '@/core/edit/reset';
import type { GroupDefinition } from '@/core/graph/document';
import { boardAt } from '@/core/edit/board';
import { useDocument, useView } from '@/state/use-stores';
import type { SettingEditor } from './setting';
import type { Evaluation } from '@/state/evaluation';
import { Button } from '@/ui/Button';
import { DialOrder } from './DialOrder';
import { DialRow } from './DialRow';
import { ExposePanel } from './ExposePanel';
import type { Exposing } from './dial-ends';
import { NotesPanel } from './NotesPanel';
import { ProofPanel } from './ProofPanel';
import { commit } from '@/state/editing';
import { useBoard } from '@/state/use-stores';

interface Props {
  readonly evaluation: Evaluation;
  readonly exposing: Exposing | null;
  readonly onExposed: () => void;
  readonly onPublish: () => void;
  readonly onPapers: () => void;
  readonly Setting: SettingEditor;
  /** The variants of the group, to be kept, applied and compared. */
  readonly Variants: ComponentType<{
    readonly group: GroupDefinition;
    readonly evaluation: Evaluation;
  }>;
}

/**
 * The outside of the open group, beside its board: dials as its users will see them, and the proof.
 */
export function Front(props: Props) {
  const { evaluation, exposing, onExposed, Setting, Variants } = props;
  const { group } = useBoard();
  if (!group) return null;
  return (
    <div className="scaled flex h-full flex-col border-l border-line bg-panel" data-testid="front">
      <div className="flex min-h-0 flex-1 flex-col overflow-auto p-3">
        <GroupWords group={group} />
        {exposing ? (
          <ExposePanel
            key={`${exposing.node} ${exposing.input}`}
            group={group}
            exposing={exposing}
            evaluation={evaluation}
            onDone={onExposed}
          />
        ) : null}
        {group.dials.length === 0 && !exposing ? (
          <p className="text-[12px] text-soft">
            No dials yet. Select a card inside and press ⊶ beside a value to pull it out.
          </p>
        ) : null}
        <AllHome group={group} />
        <DialSections {...{ group, Setting, evaluation }} />
        {exposing ? null : (
          <>
            <Variants key={`v${group.id}`} {...{ group, evaluation }} />
            <NotesPanel key={`n${group.id}`} {...{ group, evaluation }} />
            <ProofPanel {...{ group, evaluation }} />
          </>
        )}
      </div>
      <div className="flex shrink-0 gap-1 border-t border-line p-2">
        <Button className="justify-center" onClick={props.onPapers}>
          Papers
        </Button>
        <Button look="strong" className="flex-1 justify-center" onClick={props.onPublish}>
          Publish this group
        </Button>
      </div>
    </div>
  );
}

interface SectionsProps {
  readonly group: GroupDefinition;
  readonly Setting: SettingEditor;
  readonly evaluation: Evaluation;
}

/** The dials under the names of their sections; a row dragged by its handle changes their order. */
function DialSections({ group, Setting, evaluation }: SectionsProps) {
  const views = new Map(
    (describeNode(cardOf(group), group)?.inputs ?? []).map((view) => [view.id, view]),
  );
  return (
    <DialOrder group={group}>
      {dialSections(group).map(({ title, dials }) => (
        <section key={title} className="mb-2" data-section={title}>
          <h2 className="mb-1 border-b border-line text-[12px] font-semibold">{title}</h2>
          {dials.map((dial) => {
            const view = views.get(dial.id);
            return view ? (
              <DialRow key={dial.id} {...{ group, view, dial, Setting, evaluation }} />
            ) : null;
          })}
        </section>
      ))}
    </DialOrder>
  );
}

/** Puts every dial of the card home at once, where some are not. */
function AllHome({ group }: { readonly group: GroupDefinition }) {
  const path = useView((state) => state.path);
  const instance = useDocument((state) => findNode(state.document, path));
  const ids = group.dials.map(({ id }) => id).filter((id) => instance && own(instance.values, id));
  if (!instance || ids.length === 0) return null;
  return (
    <button
      type="button"
      className="mb-1 min-h-[24px] self-end text-[11px] underline"
      onClick={() => {
        commit('Put all dials home', (current) =>
          resetInputs(current, boardAt(current, path.slice(0, -1)), instance.id, ids),
        );
      }}
    >
      all home
    </button>
  );
}

/** Name and description of the group, edited in place. */
function GroupWords({ group }: { readonly group: GroupDefinition }) {
  const change = (label: string, words: Partial<GroupDefinition>): void => {
    commit(label, (current) => withGroup(current, group.id, (each) => ({ ...each, ...words })));
  };
  return (
    <>
      <input
        aria-label="Group name"
        key={group.id}
        defaultValue={group.name}
        className="min-h-[24px] shrink-0 bg-transparent text-[15px] font-semibold"
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          event.stopPropagation();
        }}
        onBlur={(event) => {
          const name = event.target.value.trim();
          if (name && name !== group.name) change('Named the group', { name });
        }}
      />
      <textarea
        aria-label="Group description"
        key={`d${group.id}`}
        defaultValue={group.description}
        placeholder="What it does, for whoever uses it"
        rows={2}
        className="mb-2 min-h-[36px] shrink-0 resize-none bg-transparent text-[12px] text-soft"
        onKeyDown={(event) => {
          event.stopPropagation();
        }}
        onBlur={(event) => {
          const description = event.target.value;
          if (description !== group.description) change('Described the group', { description });
        }}
      />
      <details className="mb-2 shrink-0 text-[12px] text-soft" open={Boolean(group.limits)}>
        <summary className="min-h-[24px] cursor-pointer">Known limits</summary>
        <textarea
          aria-label="Known limits of the group"
          key={`l${group.id}`}
          defaultValue={group.limits ?? ''}
          placeholder="What it cannot do: seams, sizes, models it is not for"
          rows={2}
          className="w-full resize-none bg-transparent"
          onKeyDown={(event) => {
            event.stopPropagation();
          }}
          onBlur={(event) => {
            const limits = event.target.value.trim();
            if (limits !== (group.limits ?? ''))
              change('Stated the limits of the group', { limits: limits || undefined });
          }}
        />
      </details>
    </>
  );
}
