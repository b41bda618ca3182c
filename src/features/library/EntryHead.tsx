'use client';
import { useRouter } from 'next/navigation';
import Link from 'next/link';
import { toast } from 'sonner';
import type { EntryView } from '@/contract/library';
import { readEntryFile } from '@/state/group-files';
import { useMaterialSearch } from '@/state/material-list';
import { Button } from '@/ui/Button';
import { MaterialChoice } from '@/ui/MaterialChoice';
import { Tags } from '@/ui/Tags';
import { saveWithProgress } from '@/ui/transfer';

interface Props {
  readonly entry: EntryView;
  readonly onEdit: () => void;
}

/** What an entry is, where it stands, and what is done with it. */
export function EntryHead({ entry, onEdit }: Props) {
  const { name, version, rackName, authorName, description, deprecatedReason } = entry;
  return (
    <header className="flex flex-wrap items-start gap-x-4 gap-y-1">
      <div className="min-w-[280px] flex-1">
        <h1 className="text-[20px] leading-tight font-semibold">
          {name} <span className="figures text-[13px] text-soft">{version ?? 'no release'}</span>
        </h1>
        <p className="text-[12px] text-soft">
          {rackName} rack · by {authorName}
        </p>
        <p className="max-w-[70ch]">{description}</p>
        <Tags tags={entry.tags} />
      </div>
      <div className="flex gap-1">
        {version === null ? null : <PlaceChoice entry={entry} />}
        <Button onClick={copyLink}>Copy the link</Button>
        {version === null ? null : (
          <Button
            title="With all its releases and the images they name"
            onClick={() => {
              saveWithProgress(`${name}.zip`, (onProgress) => readEntryFile(entry.id, onProgress));
            }}
          >
            Save as a file
          </Button>
        )}
        {entry.mayEdit ? <Button onClick={onEdit}>Arrange …</Button> : null}
      </div>
      {entry.withdrawnReason === null ? null : (
        <p className="w-full text-madder">▲ Taken off its rack: {entry.withdrawnReason}</p>
      )}
      {deprecatedReason === null ? null : (
        <p className="w-full text-madder">
          ▲ Deprecated: {deprecatedReason}{' '}
          {entry.successor ? (
            <Link className="underline" href={`/library/${entry.successor.id}`}>
              Use {entry.successor.name} instead
            </Link>
          ) : null}
        </p>
      )}
    </header>
  );
}

function copyLink(): void {
  void navigator.clipboard.writeText(window.location.href).then(
    () => toast('The link to this page is on the clipboard.'),
    () => toast(`Copy it by hand: ${window.location.href}`),
  );
}

/** The materials it can be placed in, the one saved last first. */
function PlaceChoice({ entry }: Pick<Props, 'entry'>) {
  const router = useRouter();
  const search = useMaterialSearch();
  return (
    <MaterialChoice
      isStrong
      label="Place it in …"
      title="Place it in …"
      search={search}
      onChoose={({ id }) => {
        router.push(`/materials/${id}?place=${entry.id}`);
      }}
    />
  );
}
