'use client';
import { useEffect, useState } from 'react';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import type { ModelChanges } from '@/core/evaluate/compare-models';
import { percent } from '@/core/nodes/advice';
import { compareWithFile, replaceWithFile } from '@/state/model-replacement';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import type { ModelRow } from './model-row';

interface Props {
  readonly model: ModelRow;
  readonly file: File;
  readonly onClose: (isReplaced: boolean) => void;
}
/** A difference of means that nobody sees. */
const SAME = 0.005;

/** What changes with a newer file, before it takes the place of the one there is. */
export function ReplaceSheet({ model, file, onClose }: Props) {
  const router = useRouter();
  const [changes, setChanges] = useState<ModelChanges | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    let isLate = false;
    compareWithFile(model.id, file).then(
      (found) => {
        if (!isLate) setChanges(found);
      },
      (error: unknown) => {
        if (!isLate) setProblem(describeError(error));
      },
    );
    return () => {
      isLate = true;
    };
  }, [model.id, file]);
  const replace = (): void => {
    replaceWithFile(model.id, file).then(
      () => {
        toast(`“${model.name}” has the file ${file.name} now; the former one can be put back`);
        router.refresh();
        onClose(true);
      },
      (error: unknown) => {
        setProblem(describeError(error));
      },
    );
  };
  return (
    <Sheet
      open
      onClose={() => {
        onClose(false);
      }}
      title={`Replace the file of ${model.name}`}
      description={`${file.name} beside the present file, as networks see them.`}
    >
      {problem ? <ProblemNote problem={problem} /> : null}
      {changes ? <Changes changes={changes} /> : null}
      {changes || problem ? null : <p role="status">Reading and measuring both …</p>}
      <div className="mt-3 flex gap-2">
        <Button look="strong" disabled={!changes} onClick={replace}>
          Replace it for everyone
        </Button>
        <Button
          onClick={() => {
            onClose(false);
          }}
        >
          Keep the present file
        </Button>
      </div>
    </Sheet>
  );
}

function Changes({ changes: { facts, masks } }: { readonly changes: ModelChanges }) {
  return (
    <div data-testid="model-changes">
      {facts.length > 0 ? (
        <ul className="mb-3 list-disc pl-4">
          {facts.map((fact) => (
            <li key={fact}>{fact}</li>
          ))}
        </ul>
      ) : (
        <p className="mb-3">Size, parts and attributes are the same.</p>
      )}
      <table className="w-full text-left text-[12px]">
        <thead className="text-soft">
          <tr>
            <th className="font-normal">Mask, mean over the surface</th>
            <th className="font-normal">now</th>
            <th className="font-normal">then</th>
          </tr>
        </thead>
        <tbody>
          {masks.map(({ title, before, after }) => (
            <tr key={title} className="border-t border-line">
              <td>{title}</td>
              <td className="figures">{percent(before)}</td>
              <td className="figures">
                {Math.abs(after - before) > SAME ? (
                  <strong>{percent(after)}</strong>
                ) : (
                  percent(after)
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
