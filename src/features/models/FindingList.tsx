'use client';
import type { Cure, Diagnosis } from '@/core/mesh/finding';
import { Button } from '@/ui/Button';

const CURE_WORDS: Readonly<Record<Cure, string>> = {
  smooth: 'Smooth its normals',
  weld: 'Join near vertices',
  unwrap: 'Use an automatic atlas',
  'turn round': 'Turn it round',
};
interface Props {
  readonly diagnosis: Diagnosis;
  readonly notes: readonly string[];
  readonly applied: readonly Cure[];
  readonly mayMend: boolean;
  readonly onCure: (cure: Cure) => void;
  readonly onTakeBack: (cure: Cure) => void;
}

/** What masks will make of a model: faults first, each with its effect and what mends it. */
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
        {[...faults, ...facts].map(({ code, title, effect, cure, tone }) => (
          <li key={code} className="flex items-start gap-3 border-t border-line py-1.5">
            <span
              aria-hidden
              className={`w-4 text-center ${tone === 'fault' ? 'text-madder' : 'text-woad'}`}
            >
              {tone === 'fault' ? '▲' : '·'}
            </span>
            <div className="min-w-0 flex-1">
              <p className={tone === 'fault' ? 'font-semibold' : ''}>
                <span className="sr-only">{tone === 'fault' ? 'Fault: ' : 'Note: '}</span>
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
      {applied.length > 0 ? (
        <>
          <h3 className="mt-3 mb-1 font-semibold">Mended each time it is read</h3>
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
                  Take it back
                </Button>
              </li>
            ))}
          </ul>
        </>
      ) : null}
    </section>
  );
}
