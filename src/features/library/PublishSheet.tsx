'use client';
import type { GroupDefinition } from '@/core/graph/document';
import type { Saver } from '@/state/saving';
import { Sheet } from '@/ui/Sheet';
import { PublishForm } from './PublishForm';

interface Props {
  readonly group: GroupDefinition | null;
  readonly saver: Saver | null;
  readonly onClose: () => void;
}

/** Names a group and sends it to a rack; the server repeats the proof. */
export function PublishSheet({ group, saver, onClose }: Props) {
  return (
    <Sheet
      docks
      open={group !== null}
      onClose={onClose}
      title="Publish"
      description={
        'The server proves or compares the group from the revision it holds, makes a picture, ' +
        'and puts it on a rack.'
      }
    >
      {group ? <PublishForm key={group.id} group={group} saver={saver} onClose={onClose} /> : null}
    </Sheet>
  );
}
