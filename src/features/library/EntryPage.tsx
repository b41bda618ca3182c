'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { isTriple } from '@/core/graph/document';
import { toHex } from '@/core/surface/colour-science';
import { sendJson } from '@/state/api';
import { Button } from '@/ui/Button';
import { shortNumber } from '@/ui/NumberField';
import { Swatch } from '@/ui/Swatch';
import type { EntryView, ReleaseView } from './library-types';

const day = (text: string): string => text.slice(0, 10);

/** One group of the library: its picture, its front, its releases with their proofs. */
export function EntryPage({ entry, mayWithdraw }: { readonly entry: EntryView; readonly mayWithdraw: boolean }) {
  const current = entry.releases.find((release) => release.withdrawnAt === null) ?? entry.releases[0];
  return (
    <div className="grid max-w-[1080px] grid-cols-[260px_1fr] gap-6" data-testid="entry">
      <div>{current ? <Swatch hash={current.withdrawnAt ? null : current.swatchHash} label={entry.name} /> : null}
        <p className="mt-2 text-soft">{entry.rackName} rack · by {entry.authorName}</p><p className="text-soft">{entry.tags.join(' · ')}</p></div>
      <div>
        <h1 className="text-[22px] font-semibold">{entry.name} {current ? <span className="figures text-[14px] text-soft">{current.version}</span> : null}</h1>
        <p className="mb-4 max-w-[60ch]">{entry.description}</p>
        {current ? <FrontTable release={current} /> : null}
        <h2 className="mt-5 mb-1 text-[15px] font-semibold">Releases</h2>
        <ul>{entry.releases.map((release) => <ReleaseRow key={release.version} entryId={entry.id} release={release} mayWithdraw={mayWithdraw} />)}</ul>
      </div>
    </div>
  );
}

function FrontTable({ release }: { readonly release: ReleaseView }) {
  const group = release.groups.definitions[release.groups.root];
  if (!group) return null;
  return (
    <table className="w-full border-collapse text-[13px]">
      <caption className="mb-1 text-left text-[15px] font-semibold">Front</caption>
      <thead><tr className="border-b border-line text-left text-soft"><th className="py-1 font-normal">Dial</th><th className="font-normal">Home</th><th className="font-normal">Slider</th><th className="font-normal">What its ends do</th></tr></thead>
      <tbody>
        {group.dials.map((dial) => (
          <tr key={dial.id} className="border-b border-line"><td className="py-1">{dial.name}</td>
            <td className="figures">{isTriple(dial.home) ? <span className="inline-block h-3 w-6 border border-line" style={{ background: toHex(dial.home) }} /> : shortNumber(dial.home)}</td>
            <td className="figures">{dial.kind === 'scalar' ? `${shortNumber(dial.soft[0])} – ${shortNumber(dial.soft[1])}` : ''}</td><td className="text-soft">{dial.help}</td></tr>
        ))}
        <tr><td className="py-1 text-soft">Takes</td><td colSpan={3}>{group.inputs.map((port) => `${port.name} (${port.kind})`).join(', ') || 'nothing'}</td></tr>
        <tr><td className="py-1 text-soft">Gives</td><td colSpan={3}>{group.outputs.map((port) => `${port.name} (${port.kind})`).join(', ')}</td></tr>
      </tbody>
    </table>
  );
}

function ReleaseRow({ entryId, release, mayWithdraw }: { readonly entryId: string; readonly release: ReleaseView; readonly mayWithdraw: boolean }) {
  const router = useRouter();
  const [reason, setReason] = useState<string | null>(null);
  const [failure, setFailure] = useState('');
  const withdraw = async (): Promise<void> => {
    try {
      await sendJson('POST', `/api/library/${entryId}/withdraw`, { version: release.version, reason });
      setReason(null);
      router.refresh();
    } catch (error) {
      setFailure(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <li className="border-b border-line py-1.5">
      <div className="flex items-center gap-3">
        <span className="figures">{release.version}</span><span className="text-soft">{day(release.createdAt)}, {release.authorName}</span>
        <span className="text-[12px] text-soft">{release.proof.identical ? `proof: identical at ${release.proof.points.toLocaleString('en')} points of ${release.proof.models.join(', ')}` : 'proof: different'}</span>
        {release.withdrawnAt ? <span className="text-madder">withdrawn: {release.withdrawnReason}</span> : mayWithdraw && reason === null ? <Button className="ml-auto" onClick={() => { setReason(''); }}>Withdraw</Button> : null}
      </div>
      {reason !== null ? (
        <form className="mt-1 flex gap-2" onSubmit={(event) => { event.preventDefault(); void withdraw(); }}>
          <input aria-label="Why it is withdrawn" required minLength={3} placeholder="Why? Users will read this." value={reason} onChange={(event) => { setReason(event.target.value); }} className="flex-1 border border-line bg-panel px-2" />
          <Button type="submit" look="strong">Withdraw {release.version}</Button><Button onClick={() => { setReason(null); }}>Keep it</Button>
        </form>
      ) : null}
      {failure ? <p role="alert" className="text-madder">{failure}</p> : null}
    </li>
  );
}
