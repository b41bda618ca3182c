'use client';
import Image from 'next/image';
import { useEffect, useRef, useState } from 'react';
import type { Evaluation } from '@/state/evaluation';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import { BakeStopped, bakeMaterial } from './bake-run';
import type { BakeFile } from './bake-run';
import { stores } from '@/state/stores';

interface Result {
  readonly file: BakeFile;
  readonly url: string;
}
const sizeOf = (bytes: number): string =>
  bytes > 1048576 ? `${(bytes / 1048576).toFixed(1)} MB` : `${String(Math.ceil(bytes / 1024))} kB`;

/** Bakes the material's maps and offers them, and the model with them, for download. */
export function BakeSheet({
  open,
  onClose,
  evaluation,
}: {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly evaluation: Evaluation;
}) {
  const [size, setSize] = useState('1024');
  const [depth, setDepth] = useState('8');
  const [progress, setProgress] = useState<{ label: string; share: number } | null>(null);
  const [results, setResults] = useState<readonly Result[]>([]);
  const [message, setMessage] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const stop = useRef(false);
  useEffect(
    () => () => {
      for (const { url } of results) URL.revokeObjectURL(url);
    },
    [results],
  );
  const run = async (): Promise<void> => {
    stop.current = false;
    setMessage('');
    setProblem(null);
    const { document, modelId } = stores.document.getState();
    try {
      const { files, notes } = await bakeMaterial(
        evaluation,
        modelId,
        document,
        Number(size),
        depth === '16' ? 16 : 8,
        (label, share) => {
          setProgress({ label, share });
        },
        () => stop.current,
      );
      setResults(
        files.map((file) => ({
          file,
          url: URL.createObjectURL(
            new Blob([file.bytes as Uint8Array<ArrayBuffer>], { type: file.mediaType }),
          ),
        })),
      );
      setMessage(
        [`Baked ${String(files.length - 1)} maps at ${size} × ${size}.`, ...notes].join(' '),
      );
    } catch (error) {
      if (error instanceof BakeStopped) setMessage('Stopped. The results of before are kept.');
      else setProblem(describeError(error));
    } finally {
      setProgress(null);
    }
  };
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="Bake maps"
      description={
        'Base colour and emission in sRGB, the others linear. The GLB holds the model with ' +
        'these maps.'
      }
    >
      <div className="mb-3 flex items-center gap-3">
        <Choose
          label="Size"
          value={size}
          onChange={setSize}
          items={['512', '1024', '2048'].map((each) => ({
            value: each,
            title: `${each} × ${each}`,
          }))}
        />
        <Choose
          label="Depth"
          value={depth}
          onChange={setDepth}
          items={[
            { value: '8', title: '8 bit' },
            { value: '16', title: '16 bit' },
          ]}
        />
        {progress ? (
          <Button
            onClick={() => {
              stop.current = true;
            }}
          >
            Stop
          </Button>
        ) : (
          <Button
            look="strong"
            onClick={() => {
              void run();
            }}
          >
            Bake
          </Button>
        )}
      </div>
      {problem ? <ProblemNote problem={problem} className="mb-3" /> : null}
      {progress ? (
        <div role="status" className="mb-3">
          <div>{progress.label}</div>
          <div className="h-1 bg-line">
            <div
              className="h-full bg-ink"
              style={{ width: `${String(Math.round(progress.share * 100))}%` }}
            />
          </div>
        </div>
      ) : null}
      {message ? (
        <p role="status" className="mb-2" data-testid="bake-message">
          {message}
        </p>
      ) : null}
      <ul className="grid grid-cols-3 gap-3">
        {results.map(({ file, url }) => (
          <li key={file.name}>
            {file.mediaType === 'image/png' ? (
              // Object URLs of files made in this page: there is nothing for an image service to
              // improve.
              <Image
                unoptimized
                src={url}
                alt={file.name}
                width={124}
                height={124}
                className="mb-1 h-[124px] w-[124px] border border-line bg-stage"
              />
            ) : (
              <div
                className={
                  'mb-1 grid h-[124px] w-[124px] place-items-center border border-line ' +
                  'bg-stage'
                }
              >
                GLB
              </div>
            )}
            <a
              href={url}
              download={file.name}
              className="block truncate underline"
              title={file.name}
            >
              {file.name}
            </a>
            <span className="figures text-[11px] text-soft">{sizeOf(file.bytes.length)}</span>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
