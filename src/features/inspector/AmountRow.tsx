'use client';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { toast } from 'sonner';
import { own } from '@/core/base/own';
import { findGroupDefinition, getNodeTitle } from '@/core/compile/catalogue';
import { AMOUNT } from '@/core/graph/limits';
import { isFlowing } from '@/core/graph/document';
import type { Dial, NodeInstance } from '@/core/graph/document';
import { changeAmount, settleHere } from '@/state/amounts';
import type { AmountPlace } from '@/state/amounts';
import { endGesture } from '@/state/editing';
import { useKeepRound } from '@/state/keeping';
import { stores } from '@/state/stores';
import { useDocument, useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { FIELD } from '@/ui/Field';
import { ValueSlider } from '@/ui/ValueSlider';
import { tellProblem } from '@/ui/tell-problem';

/** What directors say, as a factor of what is there. */
const WORDS: readonly (readonly [words: string, factor: number])[] = [
  ['back by half', 1 / 2],
  ['back by a third', 2 / 3],
  ['back by a quarter', 3 / 4],
  ['on by a third', 4 / 3],
];
const percent = (amount: number): string => `${String(Math.round(amount * 100))} %`;

/** How much of what the chosen node does is kept; nothing while no amount was set. */
export function AmountRow({ node }: { readonly node: NodeInstance }) {
  const path = useView((state) => state.path);
  const dials = useDocument((state) => findGroupDefinition(state.document, node)?.dials ?? NONE);
  const [chosen, setChosen] = useState('');
  if (node.amount === undefined && node.amounts === undefined) return null;
  const dial = dials.find(({ id }) => id === chosen);
  const card = getNodeTitle(stores.document.getState().document, node);
  return (
    <Amount
      place={{ path: [...path, node.id], dial: dial?.id }}
      amount={(dial ? own(node.amounts ?? {}, dial.id) : node.amount) ?? 1}
      title={dial ? `${card}, ${dial.name}` : card}
    >
      {dials.length === 0 ? null : (
        <Choose
          label="What the amount is of"
          value={dial?.id ?? ''}
          items={[
            { value: '', title: 'all it does' },
            ...dials.filter(isFlowing).map(({ id, name }) => ({ value: id, title: name })),
          ]}
          onChange={setChosen}
        />
      )}
    </Amount>
  );
}
const NONE: readonly Dial[] = [];

interface AmountProps {
  readonly place: AmountPlace;
  readonly amount: number;
  /** What it is set on, in words. */
  readonly title: string;
}

function Amount({ place, amount, title, children }: AmountProps & { children: ReactNode }) {
  return (
    <section
      aria-label={`Overall amount of ${title}`}
      className="mb-2 max-w-[640px] border-l-2 border-weld pl-2"
      data-testid="amount"
    >
      <div className="flex flex-wrap items-center gap-2 text-[12px]">
        Amount {children}
        <span className="min-w-[110px] flex-[0_1_160px]">
          <ValueSlider
            value={amount}
            low={AMOUNT[0]}
            high={AMOUNT[1]}
            step={0.01}
            label={`Overall amount of ${title}`}
            mark={{ at: 1, name: 'as it is' }}
            onChange={(next) => {
              changeAmount(place, next, 'amount');
            }}
            onDone={endGesture}
          />
        </span>
        <span className="figures w-[44px] text-right">{percent(amount)}</span>
        <Button
          title="Makes it part of the values; the look stays"
          onClick={() => {
            settleHere(place);
            toast('The amount is part of the network now; the look is the same.');
          }}
        >
          Settle
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            changeAmount(place, null);
          }}
        >
          Take away
        </Button>
      </div>
      <div className="flex flex-wrap items-center gap-1 text-[12px]">
        {WORDS.map(([words, factor]) => (
          <Button
            key={words}
            look="quiet"
            className="min-h-[24px] !px-1 !py-0 underline decoration-dotted"
            onClick={() => {
              changeAmount(place, Number((amount * factor).toFixed(4)));
            }}
          >
            {words}
          </Button>
        ))}
      </div>
      <RoundForm amount={amount} title={title} />
    </section>
  );
}

/** Keeps what was said with the amount that was set, as the next round. */
function RoundForm({ amount, title }: Omit<AmountProps, 'place'>) {
  const [words, setWords] = useState('');
  const keepRound = useKeepRound();
  const [isBusy, setBusy] = useState(false);
  const keep = async (): Promise<void> => {
    setBusy(true);
    try {
      const name = await keepRound({ about: title, amount }, words.trim());
      toast(`Kept as ${name}, under States.`);
      setWords('');
    } catch (error) {
      tellProblem(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      className="flex items-center gap-2 text-[12px]"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <input
        aria-label="What was said"
        placeholder="What was said, such as “the grime is too much”"
        className={`${FIELD} min-w-0 flex-1`}
        value={words}
        maxLength={2000}
        onChange={(event) => {
          setWords(event.target.value);
        }}
        onKeyDown={(event) => {
          event.stopPropagation();
        }}
      />
      <Button type="submit" disabled={isBusy || words.trim() === ''}>
        Keep as a round
      </Button>
    </form>
  );
}
