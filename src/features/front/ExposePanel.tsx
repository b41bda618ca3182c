'use client';
import { useEffect, useRef, useState } from 'react';
import { own } from '@/core/base/own';
import { describePorts, findNodeDefinition } from '@/core/compile/catalogue';
import { addDial, addDrive, makeDrive } from '@/core/edit/dials';
import type { LawEnds } from '@/core/edit/dials';
import { kindUnder, offerDial } from '@/core/edit/dial-offers';
import { getNetwork } from '@/core/edit/board';
import type { GroupDefinition, Law, NetworkDocument } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import { Button } from '@/ui/Button';
import { NumberField, shortNumber } from '@/ui/NumberField';
import { ShownValue } from '@/ui/ShownValue';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { pictureEnds } from './dial-ends';
import type { Ends, Exposing } from './dial-ends';
import { commit } from '@/state/editing';
import { stores } from '@/state/stores';
import { useDocument, useView } from '@/state/use-stores';

interface Props {
  readonly group: GroupDefinition;
  readonly exposing: Exposing;
  readonly evaluation: Evaluation;
  readonly onDone: () => void;
}

/** Pulls an inner value out: asks for a name, a law (with pictures of both ends) and a dial. */
export function ExposePanel({ group, exposing, evaluation, onDone }: Props) {
  const document = useDocument((state) => state.document);
  const { node: nodeId, input } = exposing;
  const offer = offerDial(document, group.id, nodeId, input);
  const title = titleOf(document, group, exposing);
  const [name, setName] = useState(title);
  const [law, setLaw] = useState<Law>(offer?.laws[0] ?? 'as is');
  const [given, setGiven] = useState<LawEnds | null>(null);
  const pictured = offer?.laws.filter((each) => kindUnder(each, offer.kind) === 'scalar') ?? [];
  const ends = useEnds(evaluation, group.id, exposing, pictured, given);
  if (!offer) return null;
  const make = (): void => {
    commit(
      `Made the dial ${name}`,
      (current) =>
        addDial(current, group.id, nodeId, input, law, name, given ?? undefined)?.document ??
        current,
    );
    onDone();
  };
  const join = (dial: string): void => {
    commit(`Let a dial drive ${title.toLowerCase()}`, (current) =>
      addDrive(current, group.id, dial, nodeId, input, law),
    );
    onDone();
  };
  return (
    <div className="mb-3 border border-weld p-2" data-testid="expose">
      <p className="mb-1 text-[12px]">
        Pull out <strong>{title}</strong>
        {offer.isWired ? (
          ': the law acts on what arrives'
        ) : (
          <>
            , designed as <ShownValue value={offer.designed} isColour={offer.kind === 'colour'} />
          </>
        )}
      </p>
      {offer.warning ? <p className="mb-1 text-[11.5px] text-madder">{offer.warning}</p> : null}
      <DialName name={name} onChange={setName} onMake={make} />
      <LawChoice laws={offer.laws} law={law} ends={ends} onChoose={setLaw} />
      {law === 'span' || law === 'blend' ? (
        <EndFields document={document} {...{ group, exposing, law, given }} onChange={setGiven} />
      ) : null}
      <DialChoice
        group={group}
        kind={kindUnder(law, offer.kind)}
        exposing={exposing}
        onChoose={join}
      />
      <div className="flex gap-1">
        <Button look="strong" onClick={make}>
          Make the dial
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
    </div>
  );
}

/** What the value that is pulled out is called on its node. */
function titleOf(document: NetworkDocument, { id }: GroupDefinition, { node, input }: Exposing) {
  const inner = getNetwork(document, id).nodes.find((each) => each.id === node);
  const ports = inner && describePorts(document, inner);
  return (
    ports?.inputs.find((port) => port.id === input)?.title ??
    own(inner && findNodeDefinition(inner)?.options, input)?.title ??
    input
  );
}

/** Pictures of both ends for each law, as they come. */
function useEnds(
  evaluation: Evaluation,
  groupId: string,
  exposing: Exposing,
  laws: readonly Law[],
  given: LawEnds | null,
): readonly Ends[] {
  const path = useView((state) => state.path);
  const [ends, setEnds] = useState<readonly Ends[]>([]);
  const lawsKey = laws.join();
  useEffect(() => {
    let live = true;
    if (lawsKey)
      pictureEnds(
        evaluation,
        stores.document.getState().document,
        path,
        groupId,
        exposing,
        lawsKey.split(',') as Law[],
        given ?? undefined,
      ).then(
        (made) => {
          if (live) setEnds(made);
        },
        () => undefined,
      );
    return () => {
      live = false;
    };
  }, [evaluation, path, groupId, exposing, lawsKey, given]);
  return ends;
}

interface EndProps {
  readonly document: NetworkDocument;
  readonly group: GroupDefinition;
  readonly exposing: Exposing;
  readonly law: Law;
  readonly given: LawEnds | null;
  readonly onChange: (ends: LawEnds) => void;
}

/** The inner values at the two ends of a span or a blend. */
function EndFields({ document, group, exposing: { node, input }, law, given, onChange }: EndProps) {
  const drive = makeDrive(document, group.id, node, input, law, given ?? undefined);
  const { low, high = 1 } = drive;
  return (
    <div className="mb-1 flex items-center gap-2 text-[12px]">
      <span className="w-10 text-soft">ends</span>
      {low === undefined ? (
        <span className="text-soft">what arrives</span>
      ) : (
        <NumberField
          label="Value at the low end"
          value={low}
          onCommit={(next) => {
            if (next !== high) onChange({ low: next, high });
          }}
        />
      )}
      <NumberField
        label="Value at the high end"
        value={high}
        onCommit={(next) => {
          if (next !== low) onChange({ low: low ?? 0, high: next });
        }}
      />
    </div>
  );
}

/** The field of the name, which a choice by pointer leads back to. */
const NAME = 'name-of-new-dial';

function DialName({
  name,
  onChange,
  onMake,
}: {
  readonly name: string;
  readonly onChange: (name: string) => void;
  /** Enter makes the dial as it stands. */
  readonly onMake: () => void;
}) {
  const field = useRef<HTMLInputElement>(null);
  // The name is typed at once, over the one that is proposed.
  useEffect(() => {
    field.current?.focus();
    field.current?.select();
  }, []);
  return (
    <label className="mb-1 flex items-center gap-2 text-[12px]">
      <span className="w-10 text-soft">name</span>
      <input
        aria-label="Name of the new dial"
        ref={field}
        id={NAME}
        value={name}
        onChange={(event) => {
          onChange(event.target.value);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter') onMake();
          event.stopPropagation();
        }}
        className="min-w-0 flex-1 border border-line bg-ground px-1"
      />
    </label>
  );
}

interface LawProps {
  readonly laws: readonly Law[];
  readonly law: Law;
  readonly ends: readonly Ends[];
  readonly onChoose: (law: Law) => void;
}

function LawChoice({ laws, law, ends, onChoose }: LawProps) {
  return (
    <div role="radiogroup" aria-label="Law" className="mb-1 flex flex-col gap-1">
      {laws.map((each) => {
        const pair = ends.find((made) => made.law === each);
        return (
          <button
            key={each}
            type="button"
            role="radio"
            aria-checked={law === each}
            onClick={(event) => {
              onChoose(each);
              // By pointer: on to the name, so that typing goes on where it was.
              if (event.detail > 0) document.getElementById(NAME)?.focus();
            }}
            className={
              'flex items-center gap-2 border p-1 text-left ' +
              (law === each ? 'border-weld' : 'border-line')
            }
          >
            <span className="w-11 text-[12px]">{each}</span>
            {(['low', 'high'] as const).map((end, k) =>
              pair ? (
                <span key={end} className="text-[11px] text-soft">
                  <PictureCanvas
                    picture={pair[end]}
                    label={`${each} at its ${end} end`}
                    className="h-[64px] w-[64px] bg-stage"
                  />
                  <span className="block">
                    {end}
                    {pair.values ? (
                      <span className="figures"> {shortNumber(pair.values[k as 0 | 1])}</span>
                    ) : null}
                  </span>
                </span>
              ) : null,
            )}
          </button>
        );
      })}
    </div>
  );
}

interface DialChoiceProps {
  readonly group: GroupDefinition;
  readonly kind: string;
  readonly exposing: Exposing;
  readonly onChoose: (dial: string) => void;
}

/** The dials the group has already that could drive this value too: a press lets one do so. */
function DialChoice({ group, kind, exposing: { node, input }, onChoose }: DialChoiceProps) {
  const fitting = group.dials.filter(
    (dial) =>
      dial.kind === kind &&
      !dial.drives.some((drive) => drive.node === node && drive.input === input),
  );
  if (fitting.length === 0) return null;
  return (
    <div className="mb-1 flex flex-wrap items-center gap-1 text-[12px]">
      <span className="text-soft">or as part of</span>
      {fitting.map((dial) => (
        <button
          key={dial.id}
          type="button"
          aria-label={`Let ${dial.name} drive it too`}
          className="min-h-[24px] border border-line px-1.5 hover:border-seam"
          onClick={() => {
            onChoose(dial.id);
          }}
        >
          {dial.name}
        </button>
      ))}
    </div>
  );
}
