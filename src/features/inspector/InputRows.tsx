'use client';
import { own } from '@/core/base/own';
import { memo, useEffect, useRef } from 'react';
import type { ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { findGroupDefinition, getNodeTitle, neutralValue } from '@/core/compile/catalogue';
import type { InputView } from '@/core/compile/catalogue';
import { getInputValue } from '@/core/compile/uniforms';
import { setValue } from '@/core/edit/nodes';
import { resetInputs } from '@/core/edit/reset';
import { disconnect } from '@/core/edit/strands';
import { isFlowing, isImage } from '@/core/graph/document';
import type { Dial, NodeInstance } from '@/core/graph/document';
import { pointAtDial } from '@/state/driven';
import { pickingFor } from '@/state/picks';
import type { PlacedFinding } from '@/state/findings-state';
import { useFindings } from '@/state/use-findings';
import { colourSources } from './colour-sources';
import { ImageField } from './ImageField';
import { SettingRow } from './SettingRow';
import { useExpose } from './use-expose';
import { ValueRow } from './ValueRow';
import { commit, endGesture } from '@/state/editing';
import { stores } from '@/state/stores';
import { indexBoard, useCard } from '@/state/use-card';
import { unwiredHere } from '@/core/edit/group-papers';
import { useDocument, useView } from '@/state/use-stores';

interface Rows {
  readonly node: NodeInstance;
  readonly board: string | null;
  readonly onExpose: ((node: string, input: string) => void) | null;
  /** Shows what an input may be set to in pictures. */
  readonly onCompare?: ((input: string) => void) | null;
}

/**
 * A node's inputs in two columns; those of a section stand under its name, folded away while none
 * of them is in use.
 */
export function InputRows({
  node,
  ports,
  board,
  onExpose,
  onCompare = null,
}: Rows & { readonly ports: readonly InputView[] }) {
  const { arriving } = useCard(node.id);
  const inUse = (port: InputView): boolean =>
    own(node.values, port.id) !== undefined || arriving.some(({ to }) => to.input === port.id);
  const rows = (list: readonly InputView[]) => (
    <div className="grid max-w-[760px] grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-x-5">
      {list.map((port) => (
        <InputRow key={port.id} {...{ node, port, board, onExpose, onCompare }} />
      ))}
    </div>
  );
  const sections = [...new Set(ports.flatMap((port) => port.port?.section ?? []))];
  return (
    <>
      {rows(ports.filter((port) => port.port?.section === undefined))}
      {sections.map((section) => {
        const list = ports.filter((port) => port.port?.section === section);
        const used = list.filter(inUse);
        return (
          <details
            key={`${node.id} ${section}`}
            open={used.length > 0}
            className="max-w-[760px] border-t border-line"
            data-testid={`section-${section}`}
          >
            <summary className="cursor-pointer py-0.5 text-[11.5px] text-soft">
              {section}
              {used.length > 0
                ? `: ${used.map((port) => port.title.toLowerCase()).join(', ')}`
                : ''}
            </summary>
            {rows(list)}
            <SectionHome node={node} section={section} ports={list} />
          </details>
        );
      })}
    </>
  );
}

interface SectionProps {
  readonly node: NodeInstance;
  readonly section: string;
  readonly ports: readonly InputView[];
}

/** Puts the values of a section back to what the node came with. */
function SectionHome({ node, section, ports }: SectionProps) {
  const inputs = ports.map(({ id }) => id);
  if (!inputs.some((id) => own(node.values, id) !== undefined)) return null;
  return (
    <button
      type="button"
      className="min-h-[24px] text-[11.5px] underline"
      onClick={() => {
        commit(`Put ${section.toLowerCase()} home`, (current, at) =>
          resetInputs(current, at, node.id, inputs),
        );
      }}
    >
      {section}: all home
    </button>
  );
}

/** Colours and vectors have four fields, which do not fit into half a bench. */
const isWide = ({ kind, dial }: InputView): boolean =>
  [kind, dial?.kind].some((each) => each === 'colour' || each === 'vector');

interface MarkedProps {
  readonly isWide: boolean;
  readonly node: string;
  readonly input: string;
  readonly children: React.ReactNode;
}

/** A row that is outlined when a finding at its input was gone to. */
function MarkedRow({ node, input, isWide: wide, children }: MarkedProps) {
  const isShown = useFindings(({ shown }) => isAt(shown, node, input));
  const row = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (isShown) row.current?.scrollIntoView({ block: 'nearest' });
  }, [isShown]);
  return (
    <div
      ref={row}
      data-input={input}
      className={`${wide ? 'col-span-full' : ''} ${isShown ? 'finding-shown' : ''}`}
    >
      {children}
    </div>
  );
}

const isAt = (shown: PlacedFinding | null, node: string, input: string): boolean =>
  shown?.place.node === node && shown.place.input === input;

/** What an input gets instead of its own value: the sources of its strands, or a dial. */
function useSource(node: NodeInstance, port: InputView, board: Rows['board']) {
  const path = useView((state) => state.path);
  return useDocument(
    useShallow(({ document }) => {
      const { nodes, arriving } = indexBoard(document, board);
      const strands = (arriving.get(node.id) ?? []).filter(({ to }) => to.input === port.id);
      const group = board === null ? undefined : own(document.groups, board);
      const dials = (group?.dials ?? []).filter((each) =>
        each.drives.some((drive) => drive.node === node.id && drive.input === port.id),
      );
      const names = strands.map(({ from }) => {
        const source = nodes.get(from.node);
        if (source) return getNodeTitle(document, source);
        const alone = own(unwiredHere(document, path), from.output);
        return alone === undefined ? 'the selvedge' : `the selvedge, ${alone}`;
      });
      return {
        strands: strands.map(({ id }) => id).join(' '),
        wiredFrom: names.length > 0 ? names.join(', ') : null,
        drivenBy: dials.length > 0 ? dials.map(({ name }) => name).join(', ') : null,
      };
    }),
  );
}

type RowProps = Rows & { readonly port: InputView };

/** Whether a row says and does the same: other values of its node are no concern of it. */
function isAlike(a: RowProps, b: RowProps): boolean {
  const { node, port } = a;
  const isSamePort =
    port.id === b.port.id &&
    port.kind === b.port.kind &&
    port.title === b.port.title &&
    port.port === b.port.port &&
    port.dial === b.port.dial;
  // A place is counted by other values of its node.
  return (
    isSamePort &&
    port.port?.picks !== 'place' &&
    a.board === b.board &&
    a.onExpose === b.onExpose &&
    a.onCompare === b.onCompare &&
    node.id === b.node.id &&
    node.name === b.node.name &&
    own(node.values, port.id) === own(b.node.values, port.id) &&
    getInputValue(node, port.id) === getInputValue(b.node, port.id) &&
    neutralValue(node, port.id) === neutralValue(b.node, port.id)
  );
}

const InputRow = memo(function InputRow(props: RowProps) {
  const { node, port } = props;
  return (
    <MarkedRow node={node.id} input={port.id} isWide={isWide(port)}>
      {port.dial ? (
        <DialPointer dial={port.dial} node={node.id}>
          <InputEditor {...props} />
        </DialPointer>
      ) : (
        <InputEditor {...props} />
      )}
    </MarkedRow>
  );
}, isAlike);

interface PointerProps {
  readonly dial: Dial;
  readonly node: string;
  readonly children: ReactNode;
}

/** A dial on a card: while it is pointed at, the stage shows where it changes what is seen. */
function DialPointer({ dial, node, children }: PointerProps) {
  return (
    <div
      onPointerEnter={() => {
        const { path } = stores.view.getState();
        pointAtDial(null, { path, node, input: dial.id, title: dial.name });
      }}
      onPointerLeave={() => {
        pointAtDial(null, null);
      }}
    >
      {children}
    </div>
  );
}

/** While a value's name is pointed at, the stage shows where it changes what is seen. */
function pointAt(
  at: { readonly path: readonly string[]; node: NodeInstance; port: InputView } | null,
): void {
  pointAtDial(
    null,
    at && { path: at.path, node: at.node.id, input: at.port.id, title: at.port.title },
  );
}

function InputEditor({ node, port, board, onExpose, onCompare = null }: RowProps) {
  const path = useView((state) => state.path);
  const { strands, wiredFrom, drivenBy } = useSource(node, port, board);
  const value = port.dial
    ? (own(node.values, port.id) ?? port.dial.home)
    : getInputValue(node, port.id);
  const group = useDocument((state) => findGroupDefinition(state.document, node));
  const expose = useExpose(node.id, port.id, onExpose);
  if (port.kind === 'image' && !port.dial)
    return (
      <ImageField
        node={node}
        input={port.id}
        title={port.title}
        path={[...path, node.id].join('/')}
        value={isImage(value) ? value : { image: '', name: '' }}
        onExpose={expose}
      />
    );
  if (port.dial && group && value !== undefined && !isFlowing(port.dial))
    return (
      <SettingRow node={node} port={port} group={group} path={[...path, node.id]} value={value} />
    );
  return (
    <ValueRow
      port={port}
      value={value}
      changed={own(node.values, port.id) !== undefined}
      neutral={neutralValue(node, port.id)}
      wiredFrom={wiredFrom}
      drivenBy={drivenBy}
      onChange={(next, gesture) => {
        commit(
          `Set ${port.title.toLowerCase()}`,
          (current, at) => setValue(current, at, node.id, port.id, next),
          gesture,
        );
      }}
      onDone={endGesture}
      onReset={() => {
        commit(`Reset ${port.title.toLowerCase()}`, (current, at) =>
          setValue(current, at, node.id, port.id, undefined),
        );
      }}
      onUnplug={() => {
        commit('Removed a strand', (current, at) => disconnect(current, at, strands.split(' ')));
      }}
      onExpose={expose}
      onCompare={onCompare && typeof value === 'number' ? () => onCompare(port.id) : null}
      onPoint={(isPointed) => {
        if (!port.dial) pointAt(isPointed ? { path, node, port } : null);
      }}
      picking={pickingFor(node, port)}
      sources={() => colourSources(port.title, node.id)}
    />
  );
}
