'use client';
import { FileInput } from 'lucide-react';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { searchLibrary } from '@/contract/library';
import type { Job } from '@/contract/jobs';
import type { Problem } from '@/core/base/problem';
import { missingIn } from '@/state/file-contents';
import { bringGroupToRack } from '@/state/group-files';
import { queryClient } from '@/state/query-client';
import { Button } from '@/ui/Button';
import { HiddenFile, ZIP } from '@/ui/HiddenFile';
import { ProblemNote } from '@/ui/ProblemNote';
import { tellProblem } from '@/ui/tell-problem';
import { withProgress } from '@/ui/transfer';
import { useAsking } from '@/ui/use-asking';
import { PublicationProgress } from './PublicationProgress';

/** Brings a group that was saved as a file onto one's own rack, with all its releases. */
export function BringGroup() {
  const input = useRef<HTMLInputElement>(null);
  const [job, setJob] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const { ask, question } = useAsking();
  const bring = async (file: File): Promise<void> => {
    if (!(await ask(file.name, await missingIn(file)))) return;
    setProblem(null);
    const { id } = await withProgress(
      `Sending ${file.name}`,
      (onProgress) => bringGroupToRack(file, onProgress),
      ({ missing }) =>
        missing.length > 0 ? `It came. Missing: ${missing.join('; ')}.` : 'It came whole.',
    );
    setJob(id);
  };
  const done = (ended: Job | undefined): void => {
    setJob('');
    const { name, added } = (ended?.result ?? {}) as { name?: string; added?: number };
    toast(
      added === 0
        ? `“${name ?? ''}” is on your own rack already.`
        : `“${name ?? ''}” is on your own rack, with ${String(added ?? 0)} releases.`,
    );
    void queryClient().invalidateQueries({ queryKey: [searchLibrary.path] });
  };
  return (
    <>
      <Button
        disabled={job !== ''}
        onClick={() => {
          input.current?.click();
        }}
      >
        <FileInput size={13} aria-hidden /> Bring a file …
      </Button>
      {question}
      <HiddenFile
        input={input}
        label="File of a group"
        accept={ZIP}
        onFile={(file) => {
          bring(file).catch(tellProblem);
        }}
      />
      {job ? (
        <PublicationProgress
          id={job}
          onDone={done}
          onEnded={(reason) => {
            setJob('');
            setProblem(reason);
          }}
        />
      ) : null}
      {problem ? <ProblemNote problem={problem} className="w-full" /> : null}
    </>
  );
}
