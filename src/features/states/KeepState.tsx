'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { keepStateHere } from '@/state/kept-states';
import type { Saver } from '@/state/saving';
import { Button } from '@/ui/Button';
import { FIELD } from '@/ui/Field';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly saver: Saver;
  /** How many are kept. */
  readonly count: number;
}

/** Keeps the material as it is now, under a name and with a note. */
export function KeepState({ saver, count }: Props) {
  const [name, setName] = useState('');
  const [note, setNote] = useState('');
  const [isBusy, setBusy] = useState(false);
  const keep = async (): Promise<void> => {
    setBusy(true);
    try {
      const kept = name.trim() || `State ${String(count + 1)}`;
      await keepStateHere(saver, kept, note.trim());
      toast(`Kept “${kept}”.`);
      setName('');
      setNote('');
    } catch (error) {
      tellProblem(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      className="grid grid-cols-[1fr_1fr_auto] items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <label className="text-[12px]">
        Name
        <input
          className={FIELD}
          value={name}
          maxLength={120}
          placeholder={`State ${String(count + 1)}`}
          onChange={(event) => {
            setName(event.target.value);
          }}
        />
      </label>
      <label className="text-[12px]">
        Note
        <input
          className={FIELD}
          value={note}
          maxLength={2000}
          onChange={(event) => {
            setNote(event.target.value);
          }}
        />
      </label>
      <Button type="submit" look="strong" disabled={isBusy}>
        Keep this state
      </Button>
    </form>
  );
}
