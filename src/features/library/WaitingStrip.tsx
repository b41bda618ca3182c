'use client';
import Link from 'next/link';
import { toast } from 'sonner';
import { useState } from 'react';
import { listWaiting, takeRelease } from '@/contract/shelf';
import type { WaitingRelease } from '@/contract/shelf';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { call } from '@/state/api';
import { askAgain } from '@/state/releases';
import { useCall } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { Choose } from '@/ui/Choose';

/** Newer releases that wait in one's materials, and those in use that were withdrawn. */
export function WaitingStrip() {
  const { data } = useCall(listWaiting, { query: {} });
  const [project, setProject] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const all = data?.waiting ?? [];
  if (all.length === 0) return null;
  const projects = new Map(all.map(({ projectId, projectName }) => [projectId, projectName]));
  const waiting = all.filter(({ projectId }) => project === '' || projectId === project);
  const free = waiting.filter(({ pinned, newest }) => pinned === null && newest !== null);
  const same = free.filter(({ releaseClass }) => releaseClass === 'same');
  const take = async (chosen: readonly WaitingRelease[]): Promise<void> => {
    setProblem(null);
    try {
      toast(await takeAll(chosen));
    } catch (error) {
      setProblem(describeError(error));
    } finally {
      await askAgain();
    }
  };
  return (
    <details className="mb-3 border border-line p-2 text-[12px]" data-testid="waiting">
      <summary className="min-h-[24px] cursor-pointer">
        Newer releases wait in {waiting.length} places of your materials
      </summary>
      <EntryLines waiting={waiting} />
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <Choose
          label="Of which project"
          value={project}
          items={[
            { value: '', title: 'all my projects' },
            ...[...projects].map(([value, title]) => ({ value, title })),
          ]}
          onChange={setProject}
        />
        <Button disabled={same.length === 0} onClick={() => void take(same)}>
          Take all {same.length} that stay the same
        </Button>
        <Button
          disabled={free.every(({ releaseClass }) => releaseClass === null)}
          onClick={() => void take(free.filter(({ releaseClass }) => releaseClass !== null))}
        >
          Take all newer ones
        </Button>
      </div>
      {problem ? <ProblemNote problem={problem} /> : null}
    </details>
  );
}

function EntryLines({ waiting }: { readonly waiting: readonly WaitingRelease[] }) {
  return (
    <ul>
      {waiting.map((each) => (
        <li key={`${each.materialId} ${each.entryId} ${each.version}`}>
          <Link className="underline" href={`/library/${each.entryId}`}>
            {each.entryName}
          </Link>{' '}
          <span className="figures">
            {each.version}
            {each.releaseClass === null ? '' : ` → ${each.newest ?? ''}`}
          </span>{' '}
          {each.releaseClass === null ? '' : `(${each.releaseClass})`} in{' '}
          <Link className="underline" href={`/materials/${each.materialId}`}>
            {each.materialName}
          </Link>
          {each.pinned === null ? '' : `; stays: ${each.pinned}`}
          {each.withdrawnReason === null ? null : (
            <span className="text-madder"> ▲ withdrawn: {each.withdrawnReason}</span>
          )}
          {each.deprecatedReason === null ? null : (
            <span className="text-madder"> ▲ deprecated: {each.deprecatedReason}</span>
          )}
        </li>
      ))}
    </ul>
  );
}

/** Takes the newest release in each of the materials, entry by entry. @throws ApiFailure */
async function takeAll(chosen: readonly WaitingRelease[]): Promise<string> {
  const byEntry = Map.groupBy(chosen, ({ entryId }) => entryId);
  let [done, lost] = [0, 0];
  for (const [id, list] of byEntry) {
    const version = list[0]?.newest;
    if (!version) continue;
    const materialIds = [...new Set(list.map(({ materialId }) => materialId))].slice(0, 200);
    const { taken } = await call(takeRelease, { params: { id }, body: { version, materialIds } });
    done += taken.filter(({ reason }) => reason === null).length;
    lost += taken.reduce((sum, each) => sum + each.lost.length, 0);
  }
  const kept = lost > 0 ? `; ${String(lost)} settings could not be kept` : '';
  return `Taken in ${String(done)} materials${kept}.`;
}
