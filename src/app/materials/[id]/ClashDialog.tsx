'use client';
import { AlertDialog } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Clash, Saver } from '@/state/saving';
import { Button } from '@/ui/Button';
import { tellProblem } from '@/ui/tell-problem';

/** Somebody else, or the same person in another window. */
function whoSaved({ authorName, revision }: Clash['theirs'], userName: string): string {
  const where = authorName === userName ? ', in another window,' : '';
  const who = authorName === userName ? 'You' : authorName;
  return `${who} saved revision ${String(revision)} of this material${where}`;
}

/** Two people saved the same material: both versions are kept, whichever is gone on with. */
export function ClashDialog({
  clash,
  saver,
  userName,
  onDone,
}: {
  readonly clash: Clash;
  readonly saver: Saver;
  readonly userName: string;
  readonly onDone: () => void;
}) {
  const [busy, setBusy] = useState(false);
  const act = (work: () => Promise<string>): void => {
    setBusy(true);
    work().then(
      (said) => {
        toast(said);
        onDone();
      },
      (error: unknown) => {
        tellProblem(error);
        setBusy(false);
      },
    );
  };
  return (
    <AlertDialog.Root open>
      <AlertDialog.Portal>
        <AlertDialog.Content
          className={
            'fixed top-24 right-6 z-50 w-[400px] border border-madder bg-panel p-4 ' +
            'text-ink shadow-2xl'
          }
          data-testid="clash"
        >
          <AlertDialog.Title className="mb-1 text-[16px] font-semibold">
            Two versions
          </AlertDialog.Title>
          <AlertDialog.Description className="mb-3">
            {whoSaved(clash.theirs, userName)} while you were working on it. Both versions are kept.
            Which one do you go on with?
          </AlertDialog.Description>
          <ClashChoices saver={saver} isBusy={busy} onChoose={act} />
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

/** Which version is gone on with; the other is kept. */
function ClashChoices({
  saver,
  isBusy,
  onChoose,
}: {
  readonly saver: Saver;
  readonly isBusy: boolean;
  readonly onChoose: (work: () => Promise<string>) => void;
}) {
  return (
    <div className="flex flex-col gap-2">
      <Button
        disabled={isBusy}
        onClick={() => {
          onChoose(async () => {
            await saver.keepMine();
            return 'Your version is now on top; theirs stays in the history.';
          });
        }}
      >
        Mine, as the next revision (theirs stays in the history)
      </Button>
      <Button
        disabled={isBusy}
        onClick={() => {
          onChoose(async () => {
            await saver.takeTheirs();
            return 'Their version is open; yours was saved as a material of its own.';
          });
        }}
      >
        Theirs (mine is saved as a material of its own)
      </Button>
    </div>
  );
}
