'use client';
import { useState } from 'react';
import { ChevronLeft, ChevronRight, X } from 'lucide-react';
import { showGuide, useGuide } from '@/state/guide';
import { useDocument, useView } from '@/state/use-stores';
import { IconButton } from '@/ui/IconButton';
import { FIRST_WEAVE, nextStep } from './first-weave';

/** The guide in one line over the bench: it goes on by itself, and can be left at any moment. */
export function GuideStrip() {
  const isShown = useGuide();
  return isShown ? <Steps /> : null;
}

function Steps() {
  const document = useDocument((state) => state.document);
  const isPinned = useView((state) => state.pin !== null);
  const [looked, setLooked] = useState<number | null>(null);
  const [reached, setReached] = useState(0);
  const now = nextStep({ document, isPinned }, reached);
  if (now > reached) {
    // What was done once counts, though it is taken back, as a pin is.
    setReached(now);
    setLooked(null);
  }
  const at = looked ?? now;
  return (
    <section
      className={
        'scaled flex shrink-0 items-center gap-3 border-t border-weld bg-panel px-3 py-1 ' +
        'text-[12px]'
      }
      aria-label="First weave, a guide of six steps"
      data-testid="guide"
    >
      <span className="flex gap-1" aria-hidden>
        {FIRST_WEAVE.map(({ title }, k) => (
          <span
            key={title}
            className={`h-[8px] w-[14px] border border-seam ${k < now ? 'bg-weld' : ''}`}
          />
        ))}
      </span>
      <Said at={at} />
      <Walking at={at} onLook={setLooked} />
    </section>
  );
}

function Said({ at }: { readonly at: number }) {
  const step = FIRST_WEAVE[at];
  return (
    <span role="status" className="min-w-0 flex-1">
      {step ? (
        <>
          <strong>
            {at + 1} of {FIRST_WEAVE.length}: {step.title}.
          </strong>{' '}
          {step.how}
        </>
      ) : (
        <>
          <strong>The first piece is woven.</strong> Double-click the group to see its inside, and
          make its values dials.
        </>
      )}
    </span>
  );
}

interface WalkingProps {
  readonly at: number;
  readonly onLook: (step: number) => void;
}

/** To the step before, to the next one, and away. */
function Walking({ at, onLook }: WalkingProps) {
  return (
    <>
      <IconButton
        name="The step before"
        isDisabled={at === 0}
        onClick={() => {
          onLook(at - 1);
        }}
      >
        <ChevronLeft size={13} />
      </IconButton>
      <IconButton
        name="The next step"
        isDisabled={at >= FIRST_WEAVE.length}
        onClick={() => {
          onLook(at + 1);
        }}
      >
        <ChevronRight size={13} />
      </IconButton>
      <IconButton
        name="Leave the guide; it is found again under the keyboard"
        onClick={() => {
          showGuide(false);
        }}
      >
        <X size={13} />
      </IconButton>
    </>
  );
}
