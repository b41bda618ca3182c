'use client';
import { withGroup } from '@/core/edit/board';
import type { GroupDefinition } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import { Button } from '@/ui/Button';
import { DialRow } from './DialRow';
import { ExposePanel } from './ExposePanel';
import type { Exposing } from './dial-ends';
import { ProofPanel } from './ProofPanel';
import { commit } from '@/state/editing';
import { useBoard } from '@/state/use-stores';

interface Props {
  readonly evaluation: Evaluation;
  readonly exposing: Exposing | null;
  readonly onExposed: () => void;
  readonly onPublish: () => void;
}

/**
 * The outside of the open group, beside its board: dials as its users will see them, and the proof.
 */
export function Front({ evaluation, exposing, onExposed, onPublish }: Props) {
  const { group } = useBoard();
  if (!group) return null;
  const sections = [...new Set(group.dials.map((dial) => dial.section))];
  return (
    <div className="scaled flex h-full flex-col border-l border-line bg-panel" data-testid="front">
      <div className="flex min-h-0 flex-1 flex-col overflow-auto p-3">
        <GroupWords group={group} />
        {exposing ? (
          <ExposePanel
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
        {sections.map((section) => (
          <section key={section} className="mb-2">
            <h2 className="mb-1 border-b border-line text-[12px] font-semibold">{section}</h2>
            {group.dials
              .filter((dial) => dial.section === section)
              .map((dial, k) => (
                <DialRow key={`${dial.id} ${String(k)}`} group={group} dial={dial} />
              ))}
          </section>
        ))}
      </div>
      <div className="max-h-[45%] shrink-0 overflow-auto border-t border-line p-3 pt-2">
        <ProofPanel evaluation={evaluation} group={group} />
        <Button look="strong" className="mt-2 w-full justify-center" onClick={onPublish}>
          Publish this group
        </Button>
      </div>
    </div>
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
        className="bg-transparent text-[15px] font-semibold"
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
        className="mb-2 resize-none bg-transparent text-[12px] text-soft"
        onKeyDown={(event) => {
          event.stopPropagation();
        }}
        onBlur={(event) => {
          const description = event.target.value;
          if (description !== group.description) change('Described the group', { description });
        }}
      />
    </>
  );
}
