import { useEffect, useRef, useState } from 'react';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import type { PackagedFile } from '@/core/handoff/exports/define';
import type { HandoffRequest } from '@/core/handoff/formats';
import type { Evaluation } from '@/state/evaluation';
import { stores } from '@/state/stores';
import { BakeStopped, bakeMaterial } from './bake-run';

export interface BakedFile {
  readonly file: PackagedFile;
  /** An object URL that lasts until the next bake. */
  readonly url: string;
  /** The one value it holds, where it holds one. */
  readonly constant: number | null;
}
export interface BakeProgress {
  readonly label: string;
  readonly share: number;
}

/** A bake that can be started and stopped, and what came of the last one. */
export function useBake(evaluation: Evaluation) {
  const [progress, setProgress] = useState<BakeProgress | null>(null);
  const [results, setResults] = useState<readonly BakedFile[]>([]);
  const [message, setMessage] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const isStopped = useRef(false);
  useEffect(
    () => () => {
      for (const { url } of results) URL.revokeObjectURL(url);
    },
    [results],
  );
  const run = async (request: HandoffRequest): Promise<void> => {
    isStopped.current = false;
    setMessage('');
    setProblem(null);
    const { document, modelId } = stores.document.getState();
    try {
      const { files, notes, constants } = await bakeMaterial(
        evaluation,
        modelId,
        document,
        request,
        (label, share) => {
          setProgress({ label, share });
        },
        () => isStopped.current,
      );
      setResults(
        files.map((file) => ({
          file,
          url: objectUrl(file),
          constant: constantOf(file, constants),
        })),
      );
      setMessage([countFiles(files.length, request.size), ...notes].join(' '));
    } catch (error) {
      if (error instanceof BakeStopped) setMessage('Stopped. The previous results are kept.');
      else setProblem(describeError(error));
    } finally {
      setProgress(null);
    }
  };
  const stop = (): void => {
    isStopped.current = true;
  };
  return { progress, results, message, problem, run, stop };
}

const constantOf = (
  { name }: PackagedFile,
  constants: ReadonlyMap<string, number>,
): number | null => [...constants].find(([map]) => name.endsWith(`-${map}.png`))?.[1] ?? null;

const objectUrl = ({ bytes, mediaType }: PackagedFile): string =>
  URL.createObjectURL(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: mediaType }));
const countFiles = (count: number, size: number): string =>
  `Wrote ${String(count)} ${count === 1 ? 'file' : 'files'} at ${String(size)} × ${String(size)}.`;
