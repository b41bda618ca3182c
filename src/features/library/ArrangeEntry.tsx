'use client';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import type { EntryView } from '@/contract/library';
import { arrangeEntry } from '@/contract/shelf';
import type { EntryArrangement } from '@/contract/shelf';
import { describeError } from '@/core/base/problem';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import { Swatch } from '@/ui/Swatch';
import { WordsForm } from '@/ui/WordsForm';
import { GivingUp, Racks } from './EntryPlaces';
import type { PartProps } from './EntryPlaces';

interface Props {
  readonly entry: EntryView;
  readonly open: boolean;
  readonly onClose: () => void;
}

/** Renames, describes, tags, moves, copies, deprecates and withdraws an entry. */
export function ArrangeEntry({ entry, open, onClose }: Props) {
  const router = useRouter();
  const arrange = useChange(arrangeEntry);
  const send = (body: EntryArrangement, told: string): void => {
    arrange.mutate(
      { params: { id: entry.id }, body },
      {
        onSuccess: () => {
          toast(told);
          router.refresh();
        },
      },
    );
  };
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title={`Arrange ${entry.name}`}
      description={entry.rackName}
    >
      <div className="flex flex-col gap-4">
        <WordsForm words={entry} onSend={send} />
        <Covers entry={entry} send={send} />
        <Racks entry={entry} send={send} />
        <GivingUp entry={entry} send={send} />
        {arrange.error ? <ProblemNote problem={describeError(arrange.error)} /> : null}
      </div>
    </Sheet>
  );
}

/** The cover: a picture of a release, or of a material that uses it. */
function Covers({ entry, send }: PartProps) {
  const pictures = [
    ...entry.releases.map(({ version, swatchHash }) => ({ title: version, hash: swatchHash })),
    ...entry.users.flatMap(({ name, swatchHash }) =>
      swatchHash === null ? [] : [{ title: name, hash: swatchHash }],
    ),
  ];
  const seen = new Set<string>();
  const each = pictures.filter(({ hash }) => !seen.has(hash) && seen.add(hash)).slice(0, 8);
  return (
    <section aria-label="Cover">
      <h3 className="text-soft">Cover</h3>
      <div className="flex flex-wrap gap-1">
        {each.map(({ title, hash }) => (
          <button
            key={hash}
            type="button"
            title={title}
            aria-label={`Cover: ${title}`}
            aria-pressed={entry.coverHash === hash}
            className={
              'h-16 w-16 border ' + (entry.coverHash === hash ? 'border-weld' : 'border-line')
            }
            onClick={() => {
              send({ coverHash: hash }, 'Chose the cover.');
            }}
          >
            <Swatch hash={hash} label="" />
          </button>
        ))}
        <Button
          disabled={entry.coverHash === null}
          onClick={() => {
            send({ coverHash: null }, 'The newest release is the cover.');
          }}
        >
          The newest release
        </Button>
      </div>
    </section>
  );
}
