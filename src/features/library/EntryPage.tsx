'use client';
import { own } from '@/core/base/own';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { findNodeDefinition } from '@/core/compile/catalogue';
import { withdrawRelease, withdrawalForm } from '@/contract/library';
import { describeError } from '@/core/base/problem';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { shortNumber } from '@/ui/NumberField';
import { ShownValue } from '@/ui/ShownValue';
import { FIELD } from '@/ui/Field';
import { ProblemNote } from '@/ui/ProblemNote';
import { Swatch } from '@/ui/Swatch';
import { ReleasePapers } from './ReleasePapers';
import { Tags } from './EntryGrid';
import { contractResolver } from '@/ui/contract-form';
import type { EntryView, ReleaseView } from '@/contract/library';

const day = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium' });

/** One group of the library: its picture, its front, its releases with their proofs. */
export function EntryPage({
  entry,
  mayWithdraw,
}: {
  readonly entry: EntryView;
  readonly mayWithdraw: boolean;
}) {
  const current =
    entry.releases.find((release) => release.withdrawnAt === null) ?? entry.releases[0];
  return (
    <div className="grid grid-cols-[minmax(240px,32vw)_1fr] gap-8" data-testid="entry">
      <div>
        {current ? (
          <Swatch
            hash={current.withdrawnAt ? null : current.swatchHash}
            label={entry.name}
            className="aspect-square w-full object-contain p-4"
          />
        ) : null}
        <p className="mt-2 text-soft">
          {entry.rackName} rack · by {entry.authorName}
        </p>
        <Tags tags={entry.tags} />
        {current ? <Needs release={current} /> : null}
      </div>
      <div>
        <h1 className="text-[22px] font-semibold">
          {entry.name}{' '}
          {current ? (
            <span className="figures text-[14px] text-soft">{current.version}</span>
          ) : null}
        </h1>
        <p className="mb-4 max-w-[60ch]">{entry.description}</p>
        {current ? <FrontTable release={current} /> : null}
        {current ? <ReleasePapers release={current} /> : null}
        <h2 className="mt-5 mb-1 text-[15px] font-semibold">Releases</h2>
        <ul>
          {entry.releases.map((release) => (
            <ReleaseRow
              key={release.version}
              entryId={entry.id}
              release={release}
              mayWithdraw={mayWithdraw}
            />
          ))}
        </ul>
      </div>
    </div>
  );
}

/** What the group is made of, and what it reads of the model. */
function Needs({ release }: { readonly release: ReleaseView }) {
  const nodes = Object.values(release.groups.definitions).flatMap(({ network }) => network.nodes);
  const inner = Object.keys(release.groups.definitions).length - 1;
  const titles = [...new Set(nodes.flatMap((node) => findNodeDefinition(node)?.title ?? []))];
  return (
    <dl className="mt-4 text-[12px]">
      <dt className="text-soft">Made of</dt>
      <dd className="mb-2">
        {nodes.length} nodes{inner > 0 ? `, ${String(inner)} of them a group inside` : ''}:{' '}
        {titles.join(', ')}
      </dd>
      <dt className="text-soft">Source</dt>
      <dd>Proved against the network it came from, on {release.proof.models.join(', ')}</dd>
    </dl>
  );
}

function FrontTable({ release }: { readonly release: ReleaseView }) {
  const group = own(release.groups.definitions, release.groups.root);
  if (release.fault !== null)
    return (
      <p role="alert" className="text-madder">
        {release.fault}
      </p>
    );
  if (!group) return null;
  return (
    <table className="w-full border-collapse text-[13px]">
      <caption className="mb-1 text-left text-[15px] font-semibold">Front</caption>
      <thead>
        <tr className="border-b border-line text-left text-soft">
          <th className="py-1 font-normal">Dial</th>
          <th className="font-normal">Home</th>
          <th className="font-normal">Slider</th>
          <th className="font-normal">What its ends do</th>
        </tr>
      </thead>
      <tbody>
        {group.dials.map((dial) => (
          <tr key={dial.id} className="border-b border-line">
            <td className="py-1">{dial.name}</td>
            <td className="figures">
              <ShownValue value={dial.home} isColour={dial.kind === 'colour'} />
            </td>
            <td className="figures">
              {dial.kind === 'scalar'
                ? `${shortNumber(dial.soft[0])} – ${shortNumber(dial.soft[1])}`
                : ''}
            </td>
            <td className="text-soft">{dial.help}</td>
          </tr>
        ))}
        <tr>
          <td className="py-1 text-soft">Takes</td>
          <td colSpan={3}>
            {group.inputs.map((port) => `${port.name} (${port.kind})`).join(', ') || 'nothing'}
          </td>
        </tr>
        <tr>
          <td className="py-1 text-soft">Gives</td>
          <td colSpan={3}>
            {group.outputs.map((port) => `${port.name} (${port.kind})`).join(', ')}
          </td>
        </tr>
      </tbody>
    </table>
  );
}

function ReleaseRow({
  entryId,
  release,
  mayWithdraw,
}: {
  readonly entryId: string;
  readonly release: ReleaseView;
  readonly mayWithdraw: boolean;
}) {
  const [isAsked, setAsked] = useState(false);
  const { version, proof } = release;
  const proved = proof.identical
    ? `proof: identical at ${proof.points.toLocaleString('en')} points of ` +
      proof.models.join(', ')
    : 'proof: different';
  const offer =
    mayWithdraw && !isAsked ? (
      <Button
        className="ml-auto"
        onClick={() => {
          setAsked(true);
        }}
      >
        Withdraw
      </Button>
    ) : null;
  return (
    <li className="border-b border-line py-1.5">
      <div className="flex items-center gap-3">
        <span className="figures">{version}</span>
        <span className="text-soft">
          {day.format(new Date(release.createdAt))}, {release.authorName}
        </span>
        <span className="text-[12px] text-soft">{proved}</span>
        {release.withdrawnAt ? (
          <span className="text-madder">withdrawn: {release.withdrawnReason}</span>
        ) : (
          offer
        )}
      </div>
      {isAsked ? (
        <Withdrawal
          entryId={entryId}
          version={version}
          onDone={() => {
            setAsked(false);
          }}
        />
      ) : null}
    </li>
  );
}

function Withdrawal({
  entryId,
  version,
  onDone,
}: {
  readonly entryId: string;
  readonly version: string;
  readonly onDone: () => void;
}) {
  const router = useRouter();
  const { mutate, error, isPending } = useChange(withdrawRelease);
  const { register, handleSubmit, formState } = useForm({
    resolver: contractResolver(withdrawalForm),
    defaultValues: { version, reason: '' },
  });
  const submit = handleSubmit((body) => {
    const withdrawn = (): void => {
      onDone();
      router.refresh();
    };
    mutate({ params: { id: entryId }, body }, { onSuccess: withdrawn });
  });
  return (
    <form className="mt-1 flex items-start gap-2" onSubmit={(event) => void submit(event)}>
      <div className="flex-1">
        <input
          aria-label="Why it is withdrawn"
          placeholder="Why? Users will read this."
          className={FIELD}
          {...register('reason')}
        />
        {formState.errors.reason ? (
          <p role="alert" className="text-madder">
            {formState.errors.reason.message}
          </p>
        ) : null}
        {error ? <ProblemNote problem={describeError(error)} className="mt-1" /> : null}
      </div>
      <Button type="submit" look="strong" disabled={isPending}>
        Withdraw {version}
      </Button>
      <Button onClick={onDone}>Keep it</Button>
    </form>
  );
}
