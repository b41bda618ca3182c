'use client';
import { own } from '@/core/base/own';
import { useState } from 'react';
import { findNode } from '@/core/compile/uniforms';
import { changeDial } from '@/core/edit/dials';
import { setValue } from '@/core/edit/nodes';
import { isTriple } from '@/core/graph/document';
import type { Dial, GroupDefinition } from '@/core/graph/document';
import { cureFinding, cureTitle, useBoardFindings, useFindings } from '@/state/use-findings';
import { ColourField } from '@/ui/ColourField';
import { NumberField } from '@/ui/NumberField';
import { ValueSlider } from '@/ui/ValueSlider';
import { DialSettings } from './DialSettings';
import { commit, endGesture } from '@/state/editing';
import { boardAt } from '@/state/board-path';
import { useDocument, useView } from '@/state/use-stores';

interface Props {
  readonly group: GroupDefinition;
  readonly dial: Dial;
}
type DialValue = Dial['home'];

/** The value of a dial at the card the board was entered by, and how to set it. */
function useDial({ dial }: Props) {
  const path = useView((state) => state.path);
  const document = useDocument((state) => state.document);
  const instance = findNode(document, path);
  const outer = boardAt(document, path.slice(0, -1));
  const typed = own(instance?.values, dial.id);
  const value: DialValue = typeof typed === 'number' || isTriple(typed) ? typed : dial.home;
  const set = (next: DialValue | undefined, gesture: string | null): void => {
    if (!instance) return;
    commit(
      next === undefined ? `Reset ${dial.name}` : `Set ${dial.name}`,
      (current) => setValue(current, outer, instance.id, dial.id, next),
      gesture,
    );
  };
  return { value, isChanged: JSON.stringify(value) !== JSON.stringify(dial.home), set };
}

/** A dial as the users of the group see it; opened, what its author sets on it. */
export function DialRow({ group, dial }: Props) {
  const [open, setOpen] = useState(false);
  const { value, isChanged, set } = useDial({ group, dial });
  return (
    <div className="py-0.5" data-testid={`dial-${dial.id}`} title={dial.help}>
      <div className="flex items-center gap-1">
        <button
          type="button"
          aria-expanded={open}
          className={
            'min-h-[24px] flex-1 text-left text-[12px] leading-[14px] wrap-anywhere ' +
            (isChanged ? 'font-semibold' : '')
          }
          onClick={() => {
            setOpen(!open);
          }}
        >
          {isChanged ? '• ' : ''}
          {dial.name}
        </button>
        {isChanged ? (
          <button
            type="button"
            className="text-[11px] underline"
            onClick={() => {
              set(undefined, null);
            }}
          >
            home
          </button>
        ) : null}
        <DialNumber dial={dial} value={value} set={set} />
      </div>
      <DialControl dial={dial} value={value} set={set} />
      <DialFaults dialId={dial.id} />
      {open ? (
        <DialSettings
          group={group}
          dial={dial}
          value={value}
          edit={(change) => {
            commit('Changed a dial', (current) => changeDial(current, group.id, dial.id, change));
          }}
        />
      ) : null}
    </div>
  );
}

interface ControlProps {
  readonly dial: Dial;
  readonly value: DialValue;
  readonly set: (next: DialValue, gesture: string | null) => void;
}

function DialNumber({ dial, value, set }: ControlProps) {
  if (typeof value !== 'number') return null;
  return (
    <NumberField
      label={`${dial.name}, number`}
      value={value}
      low={dial.hard[0]}
      high={dial.hard[1]}
      step={dial.step || 0.01}
      onDrag={(next) => {
        set(next, `dial ${dial.id}`);
      }}
      onDone={endGesture}
      onCommit={(next) => {
        set(next, null);
      }}
    />
  );
}

function DialControl({ dial, value, set }: ControlProps) {
  const gesture = `dial ${dial.id}`;
  if (isTriple(value))
    return (
      <ColourField
        label={dial.name}
        value={value}
        onChange={(next) => {
          set(next, gesture);
        }}
        onDone={endGesture}
      />
    );
  return (
    <ValueSlider
      label={dial.name}
      value={value}
      low={dial.soft[0]}
      high={dial.soft[1]}
      step={dial.step || 0.01}
      mark={
        typeof dial.home === 'number' ? { at: dial.home, name: 'home: as designed' } : undefined
      }
      onChange={(next) => {
        set(next, gesture);
      }}
      onDone={endGesture}
    />
  );
}

/** What is wrong with a dial or with what it drives. */
function DialFaults({ dialId }: { readonly dialId: string }) {
  const faults = useBoardFindings(({ place }) => place.dial === dialId);
  const shown = useFindings((state) => state.shown);
  return faults.map((fault) => {
    const cure = cureTitle(fault);
    return (
      <p
        key={`${fault.pointer} ${fault.code}`}
        data-code={fault.code}
        className={
          'text-[11px] text-madder ' + (shown?.pointer === fault.pointer ? 'finding-shown' : '')
        }
      >
        {fault.message}{' '}
        {cure === null ? null : (
          <button
            type="button"
            className="border-b border-weld text-ink"
            onClick={() => {
              cureFinding(fault);
            }}
          >
            {cure}
          </button>
        )}
      </p>
    );
  });
}
