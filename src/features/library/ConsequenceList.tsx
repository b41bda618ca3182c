'use client';
import { useState } from 'react';
import type { ConsequenceView } from '@/contract/shelf';
import { describeError } from '@/core/base/problem';
import { useConsequences } from '@/state/releases';
import { ChangeList } from '@/ui/compare/ChangeList';
import { Wipe } from '@/ui/compare/Wipe';
import { ProblemNote } from '@/ui/ProblemNote';
import { Progress } from '@/ui/Progress';
import { Swatch } from '@/ui/Swatch';
import { LostList } from './LostList';

/** Below this share of changed pixels a material looks as before. */
const UNSEEN = 0.0005;

/** How much of a picture changes, in words. */
function changeWords({ state, share, reason }: ConsequenceView): string {
  if (state === 'waiting') return 'still to be drawn';
  if (state === 'failed') return reason ?? 'cannot be drawn';
  if (share === null || share < UNSEEN) return 'looks the same';
  return `${String(Math.max(1, Math.round(share * 100)))} % of the picture changes`;
}

/** What a change of an entry does to each material that uses it, the greatest change first. */
export function ConsequenceList({ id }: { readonly id: string }) {
  const { data, error } = useConsequences(id);
  const [chosen, setChosen] = useState<string | null>(null);
  if (error) return <ProblemNote problem={describeError(error)} />;
  if (!data) return <p role="status">Asking who uses it …</p>;
  const { materials, hidden } = data;
  const done = materials.filter(({ state }) => state !== 'waiting').length;
  const open = materials.find(({ materialId }) => materialId === chosen) ?? materials[0];
  return (
    <div data-testid="consequences">
      {done < materials.length ? (
        <Progress
          share={done / materials.length}
          label={`Drawing ${String(done + 1)} of ${String(materials.length)} materials`}
        />
      ) : null}
      {materials.length === 0 ? <p className="text-soft">No material you see uses it.</p> : null}
      {hidden > 0 ? (
        <p className="text-soft">
          {hidden === 1 ? 'One more material' : `${String(hidden)} more materials`} of projects you
          are not in {hidden === 1 ? 'uses' : 'use'} it.
        </p>
      ) : null}
      <ul className="my-1 flex gap-2 overflow-x-auto" aria-label="Materials that use it">
        {materials.map((each) => (
          <li key={each.materialId}>
            <button
              type="button"
              aria-pressed={each === open}
              className={
                'w-[104px] border p-1 text-left text-[11px] ' +
                (each === open ? 'border-weld' : 'border-line')
              }
              onClick={() => {
                setChosen(each.materialId);
              }}
            >
              <Swatch hash={each.afterHash} label={`${each.name}, after`} />
              <span className="block truncate" title={each.name}>
                {each.name}
              </span>
              <span className="block text-soft">{changeWords(each)}</span>
            </button>
          </li>
        ))}
      </ul>
      {open ? <Consequence key={open.materialId} seen={open} /> : null}
    </div>
  );
}

/** One material before and after, what changed, and what cannot be kept. */
function Consequence({ seen }: { readonly seen: ConsequenceView }) {
  const { name, projectName, fromVersion, beforeHash, afterHash, changes, lost } = seen;
  return (
    <section aria-label={name}>
      <h4 className="text-[13px] font-semibold">{name}</h4>
      <p className="text-[12px] text-soft">
        {projectName}; {changeWords(seen)}
        {fromVersion === null ? '' : `, from ${fromVersion}`}
      </p>
      <div className="grid grid-cols-[repeat(auto-fit,minmax(190px,1fr))] gap-3">
        {beforeHash !== null && afterHash !== null ? (
          <Wipe
            before={`/api/blobs/${beforeHash}`}
            after={`/api/blobs/${afterHash}`}
            beforeTitle="before"
            afterTitle="after"
            label={name}
          />
        ) : null}
        {changes === null ? null : <ChangeList changes={changes} />}
      </div>
      {lost === null ? null : <LostList lost={lost} />}
    </section>
  );
}
