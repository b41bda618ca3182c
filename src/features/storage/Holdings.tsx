'use client';
import Link from 'next/link';
import { readHoldings } from '@/contract/storage';
import type { Holding } from '@/contract/storage';
import { describeError } from '@/core/base/problem';
import { useCall } from '@/state/use-call';
import { ProblemNote } from '@/ui/ProblemNote';
import { RemoveThing } from './RemoveThing';
import { sizeWords } from './sizes';

/** Bytes by person, the largest first. */
function byPerson(holdings: readonly Holding[]): readonly (readonly [string, number])[] {
  const sums = new Map<string, number>();
  for (const { ownerName, bytes } of holdings)
    sums.set(ownerName, (sums.get(ownerName) ?? 0) + bytes);
  return [...sums].sort(([, a], [, b]) => b - a);
}

/** Where a thing is looked at; images stand in the materials that use them. */
function Name({ kind, id, name }: Pick<Holding, 'kind' | 'id' | 'name'>) {
  if (kind === 'image') return <>{name}</>;
  const address = kind === 'model' ? `/models?model=${id}` : `/materials/${id}`;
  return (
    <Link href={address} className="underline decoration-line hover:decoration-ink">
      {name}
    </Link>
  );
}

/** What takes most room in a project, and whose it is. */
export function Holdings({ id }: { readonly id: string }) {
  const { data, error } = useCall(readHoldings, { params: { id } });
  if (error) return <ProblemNote problem={describeError(error)} />;
  if (!data) return <p role="status">Adding up …</p>;
  const { holdings } = data;
  if (holdings.length === 0) return <p className="text-soft">It holds nothing yet.</p>;
  return (
    <>
      <p className="mb-2 flex flex-wrap gap-x-4 text-[12px]">
        {byPerson(holdings).map(([person, bytes]) => (
          <span key={person}>
            {person} <span className="figures text-soft">{sizeWords(bytes)}</span>
          </span>
        ))}
      </p>
      <table className="w-full text-left text-[12px]">
        <thead className="text-soft">
          <tr>
            <th className="py-1 pr-2 font-normal">Name</th>
            <th className="py-1 pr-2 font-normal">What</th>
            <th className="py-1 pr-2 font-normal">Whose</th>
            <th className="py-1 text-right font-normal">Room</th>
            <th className="py-1 font-normal">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {holdings.map((thing) => (
            <Row key={`${thing.kind} ${thing.id}`} projectId={id} thing={thing} />
          ))}
        </tbody>
      </table>
    </>
  );
}

/** What kind of thing it is, in words. */
const kindWords = ({ kind, count, isArchived }: Holding): string =>
  [
    kind,
    ...(kind === 'material' ? [`${String(count)} ${count === 1 ? 'revision' : 'revisions'}`] : []),
    ...(isArchived ? ['archived'] : []),
  ].join(', ');

function Row({ projectId, thing }: { readonly projectId: string; readonly thing: Holding }) {
  return (
    <tr className="border-t border-line">
      <td className="max-w-[220px] truncate py-1 pr-2">
        <Name kind={thing.kind} id={thing.id} name={thing.name} />
      </td>
      <td className="py-1 pr-2 text-soft">{kindWords(thing)}</td>
      <td className="py-1 pr-2">{thing.ownerName}</td>
      <td className="figures py-1 pr-2 text-right">{sizeWords(thing.bytes)}</td>
      <td className="relative h-[32px] w-[24px] py-1">
        <RemoveThing projectId={projectId} thing={thing} />
      </td>
    </tr>
  );
}
