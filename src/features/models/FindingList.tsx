'use client';
import type { Cure, Diagnosis, Finding } from '@/core/mesh/finding';
import { Button } from '@/ui/Button';

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
}

/** What masks will make of a model: faults first, each with its effect and what corrects it. */
export function FindingList({ diagnosis, notes, applied, mayMend, onCure, onTakeBack }: Props) {
  const faults = diagnosis.findings.filter(({ tone }) => tone === 'fault'),
    facts = diagnosis.findings.filter(({ tone }) => tone === 'fact');
  return (
    <section aria-label="What masks will make of it">
      <h3 className="mb-1 font-semibold">What masks will make of it</h3>
      {faults.length === 0 ? (
        <p className="border-t border-line py-1">
          Nothing is amiss: every mask can be trusted on it.
        </p>
      ) : null}
      <ul>
        {[...faults, ...facts].map((finding) => (
          <FindingRow key={finding.code} finding={finding} mayMend={mayMend} onCure={onCure} />
        ))}
        {notes.map((note) => (
          <li key={note} className="flex gap-3 border-t border-line py-1.5">
            <span aria-hidden className="w-4 text-center text-woad">
              ·
            </span>
            {note}
          </li>
        ))}
      </ul>
      <AppliedCures applied={applied} mayMend={mayMend} onTakeBack={onTakeBack} />
    </section>
  );
}

function FindingRow({
  finding: { title, effect, cure, tone },
  mayMend,
  onCure,
}: Pick<Props, 'mayMend' | 'onCure'> & { readonly finding: Finding }) {
  const isFault = tone === 'fault';
  return (
    <li className="flex items-start gap-3 border-t border-line py-1.5">
      <span aria-hidden className={`w-4 text-center ${isFault ? 'text-madder' : 'text-woad'}`}>
        {isFault ? '▲' : '·'}
      </span>
      <div className="min-w-0 flex-1">
        <p className={isFault ? 'font-semibold' : ''}>
          <span className="sr-only">{isFault ? 'Fault: ' : 'Note: '}</span>
          {title}
        </p>
        <p className="text-[12px] text-soft">{effect}</p>
      </div>
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
