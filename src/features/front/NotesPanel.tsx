'use client';
import { cureNote } from '@/core/edit/note-cures';
import type { GroupNote } from '@/core/notes/group-note';
import type { GroupDefinition } from '@/core/graph/document';
import { commit, select } from '@/state/editing';
import { stores } from '@/state/stores';
import type { Evaluation } from '@/state/evaluation';
import { useGroupNotes, useInspection } from '@/state/group-notes';

/** The inspector's notes on the open group: what misleads its users, each with place and cure. */
export function NotesPanel({
  evaluation,
  group,
}: {
  readonly evaluation: Evaluation;
  readonly group: GroupDefinition;
}) {
  useInspection(evaluation, group);
  const { notes, waiting } = useGroupNotes(group);
  const faults = notes.filter(({ tone }) => tone === 'fault').length;
  return (
    <details className="mb-2 border border-line p-1.5 text-[12px]" data-testid="notes">
      <summary className="min-h-[24px] cursor-pointer">
        <strong>Inspector’s notes</strong>{' '}
        <span className={faults > 0 ? 'text-madder' : 'text-soft'}>
          {faults === 0 ? 'no fault' : `${String(faults)} ${faults === 1 ? 'fault' : 'faults'}`}
          {waiting > 0 ? ', trying dials …' : ''}
        </span>
      </summary>
      {notes.length === 0 ? (
        <p className="text-soft">Nothing stands out: it can be trusted unopened.</p>
      ) : (
        <ul>
          {notes.map((note) => (
            <Note key={`${note.code} ${note.message}`} note={note} group={group} />
          ))}
        </ul>
      )}
    </details>
  );
}

function Note({ note, group }: { readonly note: GroupNote; readonly group: GroupDefinition }) {
  const { tone, message, node, cure } = note;
  return (
    <li className="flex items-start gap-1.5 border-t border-line py-1" data-code={note.code}>
      <span aria-hidden className={tone === 'fault' ? 'text-madder' : 'text-woad'}>
        {tone === 'fault' ? '▲' : '·'}
      </span>
      <span className="min-w-0 flex-1">
        {message}{' '}
        {node === undefined ? null : (
          <button
            type="button"
            className="border-b border-seam"
            onClick={() => {
              select([node]);
              stores.view.setState({ asked: { show: 'near', ids: [node] } });
            }}
          >
            Show it
          </button>
        )}{' '}
        {cure ? (
          <button
            type="button"
            className="border-b border-weld"
            onClick={() => {
              commit(cure.title, (current) => cureNote(current, group.id, cure));
            }}
          >
            {cure.title}
          </button>
        ) : null}
      </span>
    </li>
  );
}
