'use client';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { PLACED_FINDINGS } from '@/core/mesh/fault-places';
import type { Cure, Diagnosis, Finding, FindingCode } from '@/core/mesh/finding';
import type { ModelDrawings } from '@/state/model-examination';
import { Button } from '@/ui/Button';
import { PictureCanvas } from '@/ui/PictureCanvas';

const CURE_WORDS: Readonly<Record<Cure, string>> = {
  smooth: 'Smooth its normals',
  weld: 'Join near vertices',
  unwrap: 'Use an automatic atlas',
  flip: 'Flip its winding',
};
interface Props {
  readonly diagnosis: Diagnosis;
  readonly notes: readonly string[];
  readonly applied: readonly Cure[];
  readonly mayMend: boolean;
  readonly onCure: (cure: Cure) => void;
  readonly onTakeBack: (cure: Cure) => void;
  /** Null until the model can be drawn. */
  readonly drawFault: ModelDrawings['drawFault'] | null;
}

/** What masks will make of a model: faults first, each with its effect and what corrects it. */
export function FindingList(props: Props) {
  const { diagnosis, notes, applied, mayMend, onCure, onTakeBack, drawFault } = props;
  const faults = diagnosis.findings.filter(({ tone }) => tone === 'fault'),
    facts = diagnosis.findings.filter(({ tone }) => tone === 'fact');
  const placed = [...faults, ...facts].filter(({ code }) => PLACED_FINDINGS.has(code));
  const [asked, setShown] = useState<FindingCode | null>(null);
  const shown = placed.find(({ code }) => code === asked) ?? placed[0];
  return (
    <div className="flex flex-wrap items-start gap-5">
      <section aria-label="What masks will make of it" className="min-w-[320px] flex-1">
        <h3 className="mb-1 font-semibold">What masks will make of it</h3>
        {faults.length === 0 ? (
          <p className="border-t border-line py-1">
            Nothing is amiss: every mask can be trusted on it.
          </p>
        ) : null}
        <ul>
          {[...faults, ...facts].map((finding) => (
            <FindingRow
              key={finding.code}
              finding={finding}
              isShown={finding === shown}
              mayMend={mayMend}
              onCure={onCure}
              onShow={placed.includes(finding) ? setShown : null}
            />
          ))}
          {notes.map((note) => (
            <li key={note} className="flex gap-3 border-t border-line py-1.5">
              <span aria-hidden className="w-4 shrink-0 text-center text-woad">
                ·
              </span>
              {note}
            </li>
          ))}
        </ul>
        <AppliedCures applied={applied} mayMend={mayMend} onTakeBack={onTakeBack} />
      </section>
      {shown && drawFault ? <FaultPicture finding={shown} drawFault={drawFault} /> : null}
    </div>
  );
}

/** Side of the picture of a finding, pixels. */
const SIDE = 440;

/** Where a finding is on the model. */
function FaultPicture({
  finding: { code, title },
  drawFault,
}: {
  readonly finding: Finding;
  readonly drawFault: ModelDrawings['drawFault'];
}) {
  const { data, isPending } = useQuery({
    queryKey: ['fault', code, drawFault],
    queryFn: () => drawFault(code, SIDE),
    gcTime: 0,
    retry: false,
  });
  return (
    <figure className="w-[clamp(240px,26vw,440px)]">
      <div className="aspect-square bg-stage">
        {data ? (
          <PictureCanvas picture={data} label={`Where it is: ${title}`} className="h-full w-full" />
        ) : null}
      </div>
      <figcaption className="text-[12px] text-soft">
        {isPending ? 'Looking for the place …' : title}
      </figcaption>
    </figure>
  );
}

function FindingRow({
  finding: { code, title, effect, cure, tone },
  isShown,
  mayMend,
  onCure,
  onShow,
}: Pick<Props, 'mayMend' | 'onCure'> & {
  readonly finding: Finding;
  readonly isShown: boolean;
  /** Shows it on the model; null for what has no place. */
  readonly onShow: ((code: FindingCode) => void) | null;
}) {
  const isFault = tone === 'fault';
  return (
    <li className="flex items-start gap-3 border-t border-line py-1.5">
      <span
        aria-hidden
        className={`w-4 shrink-0 text-center ${isFault ? 'text-madder' : 'text-woad'}`}
      >
        {isFault ? '▲' : '·'}
      </span>
      <div className="min-w-0 flex-1">
        <p className={isFault ? 'font-semibold' : ''}>
          <span className="sr-only">{isFault ? 'Fault: ' : 'Note: '}</span>
          {title}
        </p>
        <p className="text-[12px] text-soft">{effect}</p>
        <div className="mt-1 flex flex-wrap gap-2 empty:hidden">
          {onShow ? (
            <Button
              look="quiet"
              aria-pressed={isShown}
              aria-label={`Show on the model: ${title}`}
              className={isShown ? '!border-weld' : ''}
              onClick={() => {
                onShow(code);
              }}
            >
              Show where
            </Button>
          ) : null}
          {cure ? (
            <Button
              disabled={!mayMend}
              onClick={() => {
                onCure(cure);
              }}
            >
              {CURE_WORDS[cure]}
            </Button>
          ) : null}
        </div>
      </div>
    </li>
  );
}

/** What is corrected each time the file is read. */
function AppliedCures({
  applied,
  mayMend,
  onTakeBack,
}: Pick<Props, 'applied' | 'mayMend' | 'onTakeBack'>) {
  if (applied.length === 0) return null;
  return (
    <>
      <h3 className="mt-3 mb-1 font-semibold">Fixed each time it is read</h3>
      <ul>
        {applied.map((cure) => (
          <li key={cure} className="flex items-center gap-3 border-t border-line py-1">
            <span className="flex-1">{CURE_WORDS[cure]}</span>
            <Button
              look="quiet"
              disabled={!mayMend}
              onClick={() => {
                onTakeBack(cure);
              }}
            >
              Undo it
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}
