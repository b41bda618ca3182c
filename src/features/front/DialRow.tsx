'use client';
import { useState } from 'react';
import type { ReactNode } from 'react';
import type { InputView } from '@/core/compile/catalogue';
import { settingOf } from '@/core/compile/settings';
import { findNode } from '@/core/compile/uniforms';
import { changeDial } from '@/core/edit/dials';
import { setValue } from '@/core/edit/nodes';
import type { Dial, GroupDefinition, InputValue } from '@/core/graph/document';
import { pointAtDial } from '@/state/driven';
import { cureFinding, cureTitle, useBoardFindings, useFindings } from '@/state/use-findings';
import { useDialDrag } from './DialOrder';
import { DialSettings } from './DialSettings';
import type { SettingEditor } from './setting';
import type { Evaluation } from '@/state/evaluation';
import { commit, endGesture } from '@/state/editing';
import { boardAt } from '@/core/edit/board';
import type { PointedValue } from '@/state/stores';
import { useDocument, useView } from '@/state/use-stores';

interface Props {
  readonly group: GroupDefinition;
  readonly view: InputView;
  readonly dial: Dial;
  readonly Setting: SettingEditor;
  readonly evaluation: Evaluation;
}

/** The value of a dial at the card the board was entered by, and how to set it. */
function useDial({ dial }: Pick<Props, 'dial'>) {
  const path = useView((state) => state.path);
  const document = useDocument((state) => state.document);
  const instance = findNode(document, path);
  const outer = boardAt(document, path.slice(0, -1));
  const value: InputValue = instance ? settingOf(instance, dial) : dial.home;
  const set = (next: InputValue | undefined, gesture: string | null): void => {
    if (!instance) return;
    commit(
      next === undefined ? `Reset ${dial.name}` : `Set ${dial.name}`,
      (current) => setValue(current, outer, instance.id, dial.id, next),
      gesture,
    );
  };
  return { path, value, isChanged: JSON.stringify(value) !== JSON.stringify(dial.home), set };
}

/** A dial on the card that the open group was entered by. */
const placeOf = (path: readonly string[], { id, name }: Dial): PointedValue | null => {
  const node = path.at(-1);
  return node === undefined ? null : { path: path.slice(0, -1), node, input: id, title: name };
};

/** A dial as the users of the group see it; opened, what its author sets on it. */
export function DialRow({ group, view, dial, Setting, evaluation }: Props) {
  const [open, setOpen] = useState(false);
  const { path, value, isChanged, set } = useDial({ dial });
  // From a value back to its dials: those that drive the chosen card stand out.
  const drivesChosen = useView(({ selection }) =>
    dial.drives.some(({ node }) => selection.includes(node)),
  );
  const { handle, setNodeRef, style } = useDialDrag(dial.id, dial.name);
  return (
    <div
      ref={setNodeRef}
      style={style}
      className={`border-l-2 py-0.5 pl-1 ${drivesChosen ? 'border-weld' : 'border-transparent'}`}
      data-testid={`dial-${dial.id}`}
      title={dial.help}
      onPointerEnter={() => {
        pointAtDial(dial, placeOf(path, dial));
      }}
      onPointerLeave={() => {
        pointAtDial(null, null);
      }}
    >
      <DialHead {...{ dial, open, isChanged, set, handle }} onOpen={setOpen} />
      <Setting
        view={view}
        group={group}
        path={path}
        value={value}
        onChange={(next, gesture) => {
          set(next, gesture);
        }}
        onDone={endGesture}
      />
      <DialEnds dial={dial} />
      <DialFaults dialId={dial.id} />
      {open ? (
        <DialSettings
          {...{ group, dial, value, path, evaluation }}
          edit={(change) => {
            commit('Changed a dial', (current) => changeDial(current, group.id, dial.id, change));
          }}
        />
      ) : null}
    </div>
  );
}

interface HeadProps {
  readonly dial: Dial;
  readonly open: boolean;
  readonly isChanged: boolean;
  readonly set: (next: InputValue | undefined, gesture: string | null) => void;
  readonly onOpen: (open: boolean) => void;
  /** What drags the row. */
  readonly handle: ReactNode;
}

function DialHead({ dial, open, isChanged, set, onOpen, handle }: HeadProps) {
  return (
    <div className="flex items-center gap-1">
      <button
        type="button"
        aria-expanded={open}
        className={
          'min-h-[24px] flex-1 text-left text-[12px] leading-[14px] wrap-anywhere ' +
          (isChanged ? 'font-semibold' : '')
        }
        onClick={() => {
          onOpen(!open);
        }}
      >
        {isChanged ? '• ' : ''}
        {dial.name}
        {dial.unit ? <span className="text-soft"> {dial.unit}</span> : null}
      </button>
      {isChanged ? (
        <button
          type="button"
          className="min-h-[24px] text-[11px] underline"
          onClick={() => {
            set(undefined, null);
          }}
        >
          home
        </button>
      ) : null}
      {handle}
    </div>
  );
}

/** What the two ends of the slider do, in the author's words. */
function DialEnds({ dial: { ends } }: Pick<Props, 'dial'>) {
  if (!ends?.low && !ends?.high) return null;
  return (
    <span className="flex justify-between gap-2 text-[10.5px] text-soft">
      <span>{ends.low}</span>
      <span>{ends.high}</span>
    </span>
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
