'use client';
import { RotateCcw } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { openRevision } from '@/contract/materials';
import { listRevisions } from '@/contract/revisions';
import type { RevisionView } from '@/contract/revisions';
import { commit } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import type { Side } from '@/state/compared-sides';
import { read } from '@/state/query-client';
import { useRevisionPicture } from '@/state/revisions';
import { stores } from '@/state/stores';
import { useCall } from '@/state/use-call';
import { useDocument } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { tellProblem } from '@/ui/tell-problem';
import type { Sides } from './side-choices';

interface Props {
  readonly evaluation: Evaluation;
  readonly sides: Sides;
  readonly onChoose: (place: keyof Sides, side: Side) => void;
}

/** Every saved revision with its picture, the newest first, a page at a time. */
export function RevisionList(given: Props) {
  const id = useDocument((state) => state.materialId);
  const head = useDocument((state) => state.revision);
  const [before, setBefore] = useState<number | null>(null);
  // Nothing is asked for and nothing drawn before somebody looks.
  const [isOpen, setOpen] = useState(false);
  const query = before === null ? {} : { before: String(before) };
  const { data } = useCall(
    listRevisions,
    { params: { id }, query },
    { enabled: isOpen && id !== '', keepsPrevious: true },
  );
  const revisions = data?.revisions ?? [];
  const last = revisions.at(-1)?.number;
  const turn = (to: number | null, title: string) => (
    <Button
      className="min-h-[24px] !py-0 text-[11.5px]"
      onClick={() => {
        setBefore(to);
      }}
    >
      {title}
    </Button>
  );
  return (
    <details
      className="text-[12px]"
      data-testid="revisions"
      onToggle={(event) => {
        setOpen(event.currentTarget.open);
      }}
    >
      <summary className="cursor-pointer font-semibold">
        Revisions <span className="figures font-normal text-soft">{head}</span>
      </summary>
      <ol className="mt-1 flex flex-col" aria-label="Saved revisions, the newest first">
        {(isOpen ? revisions : []).map((revision) => (
          <RevisionRow key={revision.number} revision={revision} {...given} />
        ))}
      </ol>
      <span className="mt-1 flex gap-1">
        {before === null ? null : turn(null, 'Newest')}
        {data?.hasMore && last !== undefined ? turn(last, 'Earlier') : null}
      </span>
    </details>
  );
}

/** Opens a revision as a step that can be undone; its document alone. */
async function goBackTo(number: number): Promise<void> {
  const { materialId } = stores.document.getState();
  const params = { id: materialId, number: String(number) };
  const { document } = await read(openRevision, { params });
  commit(`Back to revision ${String(number)}`, ({ name }) => ({ ...document, name }));
  toast(`Revision ${String(number)} is open again. Ctrl+Z takes that back.`);
}

function RevisionRow({
  revision: { number, authorName, savedAt, states, releases },
  evaluation,
  sides,
  onChoose,
}: Props & { readonly revision: RevisionView }) {
  const picture = useRevisionPicture(evaluation, number);
  const when = new Date(savedAt).toLocaleString('en-GB', {
    dateStyle: 'medium',
    timeStyle: 'short',
  });
  const isAt = (place: keyof Sides): boolean => {
    const side = sides[place];
    return side?.of === 'revision' && side.number === number;
  };
  return (
    <li className="flex items-center gap-2 border-t border-line py-0.5" data-revision={number}>
      <PictureCanvas
        picture={picture}
        label={`Revision ${String(number)}`}
        className="h-[36px] w-[36px] shrink-0 bg-stage"
      />
      <span className="min-w-0 flex-1">
        <span className="figures">{number}</span> {authorName}
        <span className="block truncate text-[11px] text-soft">
          {[when, ...states.map((name) => `“${name}”`), ...releases].join(' · ')}
        </span>
      </span>
      {(['before', 'after'] as const).map((place) => (
        <IconButton
          key={place}
          name={`Compare revision ${String(number)} as ${place === 'before' ? 'A' : 'B'}`}
          isPressed={isAt(place)}
          onClick={() => {
            onChoose(place, { of: 'revision', number });
          }}
        >
          {place === 'before' ? 'A' : 'B'}
        </IconButton>
      ))}
      <IconButton
        name={`Go back to revision ${String(number)}`}
        onClick={() => {
          goBackTo(number).catch(tellProblem);
        }}
      >
        <RotateCcw size={12} />
      </IconButton>
    </li>
  );
}
