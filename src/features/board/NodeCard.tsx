'use client';
import { Handle, Position } from '@xyflow/react';
import type { Node, NodeProps } from '@xyflow/react';
import { Pin } from 'lucide-react';
import { memo } from 'react';
import { describePorts, findDefinition, groupOf, idleInputs } from '@/core/compile/catalogue';
import { networkOf } from '@/core/edit/board';
import { isImage, isRamp, isTriple } from '@/core/graph/document';
import type { InputValue, NodeInstance } from '@/core/graph/document';
import { TYPED_ONLY } from '@/core/nodes/define';
import { toHex } from '@/core/surface/colour-science';
import { boardAt, enterGroup, keyOf, togglePin } from '@/state/editor-store';
import { useAdvice } from '@/state/use-advice';
import { useEditor } from '@/state/use-editor';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { shortNumber } from '@/ui/NumberField';
import { FamilyStitch } from './FamilyStitch';
import { PortMark } from './port-mark';

/** The folded edge that tells the card of a group from that of a node. */
const HEM = 'absolute inset-y-0 w-[3px] border-y border-seam bg-raised';

export type CardNode = Node<{ nodeId: string }, 'card'>;
const CARD = 124;

export const titleOf = (node: NodeInstance, groupName: string | undefined): string =>
  node.name ?? groupName ?? findDefinition(node.type)?.title ?? node.type;

/** A node as a card: its live output first, then its name and the few values in use. */
export const NodeCard = memo(function NodeCard({
  data: { nodeId },
  selected,
}: NodeProps<CardNode>) {
  const path = useEditor((state) => state.path);
  const document = useEditor((state) => state.document);
  const pin = useEditor((state) => state.pin);
  const board = boardAt(document, path);
  const network = networkOf(document, board);
  const node = network.nodes.find((each) => each.id === nodeId);
  const ports = node ? describePorts(document, node) : null;
  const firstOutput = ports?.outputs[0];
  const tap = useEditor((state) =>
    firstOutput ? state.taps.get(keyOf(path, nodeId, firstOutput.id)) : undefined,
  );
  const advice = useAdvice(node);
  if (!node) return null;
  const group = groupOf(document, node);
  const title = titleOf(node, group?.name);
  const idle = new Set(idleInputs(node));
  const pinned =
    pin !== null && (ports?.outputs ?? []).some((output) => keyOf(path, nodeId, output.id) === pin);
  const wired = new Set(
    network.strands.filter(({ to }) => to.node === nodeId).map(({ to }) => to.input),
  );
  const usable = (ports?.inputs ?? []).filter(
    (port) => !idle.has(port.id) && !TYPED_ONLY.has(port.kind),
  );
  const inputs = usable.filter((port) => port.port?.section === undefined || wired.has(port.id));
  // Those of sections stand aside and are shown only while the card is chosen or a strand is on its
  // way.
  const aside = usable.filter((port) => !inputs.includes(port));
  const spread = (count: number, k: number): number =>
    count === 1 ? 62 : 12 + (k * 106) / Math.max(1, count - 1);
  return (
    <div
      data-testid={`card-${nodeId}`}
      data-title={title}
      className={
        'relative rounded-[3px] border border-line bg-panel ' +
        `${selected ? 'stitched card-chosen' : ''} ${pinned ? 'ring-2 ring-weld' : ''}`
      }
      style={{ width: CARD + 8 }}
      onDoubleClick={() => {
        if (group) enterGroup(nodeId);
      }}
    >
      {group ? <span className={`${HEM} -left-[5px] border-l`} /> : null}
      {group ? <span className={`${HEM} -right-[5px] border-r`} /> : null}
      <div
        className="relative m-1 overflow-hidden bg-stage"
        style={{ width: CARD, height: node.folded ? 60 : CARD }}
      >
        {tap ? (
          <PictureCanvas
            picture={tap.picture}
            label={`${title}: its output on the model`}
            className="h-[124px] w-[124px]"
          />
        ) : (
          <span className="absolute inset-0 grid place-items-center text-[11px] text-soft">
            {ports ? 'weaving …' : 'unknown node'}
          </span>
        )}
        <button
          type="button"
          aria-label={pinned ? `Take ${title} off the stage` : `Pin ${title} on the stage`}
          aria-pressed={pinned}
          disabled={!firstOutput}
          className={
            'nodrag absolute right-0.5 bottom-0.5 rounded-[2px] p-1 ' +
            (pinned ? 'bg-weld text-weld-ink' : 'bg-line/70 text-ink hover:bg-line')
          }
          onClick={(event) => {
            event.stopPropagation();
            if (firstOutput) togglePin(keyOf(path, nodeId, firstOutput.id));
          }}
        >
          <Pin size={12} />
        </button>
        {advice.length > 0 && (
          <span className="absolute top-0.5 left-0.5 flex gap-0.5">
            {advice.map((each) => (
              <span
                key={each.code}
                title={each.message}
                className={
                  'figures rounded-[2px] bg-line/85 px-1 text-[10px] ' +
                  (each.tone === 'fact' ? 'text-ink' : 'text-madder')
                }
              >
                {each.mark}
              </span>
            ))}
          </span>
        )}
      </div>
      <div className="flex items-center gap-1 px-1.5 pb-0.5">
        <FamilyStitch family={findDefinition(node.type)?.family ?? 'group'} />
        <span className="truncate text-[12px] font-medium">{title}</span>
      </div>
      {tap?.statistics && !node.folded && (
        <div
          className="figures flex justify-between px-1.5 pb-1 text-[10px] text-soft"
          data-testid="range"
        >
          <span>{shortFigure(tap.statistics.minimum)}</span>
          <span>{shortFigure(tap.statistics.maximum)}</span>
        </div>
      )}
      {!node.folded && <ValuesInUse node={node} />}
      {inputs.map((port, k) => (
        <Handle
          key={port.id}
          id={port.id}
          type="target"
          position={Position.Left}
          className="port"
          data-kind={port.kind}
          style={{ top: spread(inputs.length, k) }}
          aria-label={`${title}, input ${port.title}`}
        >
          <PortMark kind={port.kind} />
          <span className="port-name">{port.title}</span>
        </Handle>
      ))}
      {aside.map((port, k) => (
        <Handle
          key={port.id}
          id={port.id}
          type="target"
          position={Position.Left}
          className="port aside"
          data-kind={port.kind}
          style={{ left: -16, top: (k + 0.5) * 14 - 10 }}
          aria-label={`${title}, input ${port.title}`}
        >
          <PortMark kind={port.kind} />
          <span className="port-name">{port.title}</span>
        </Handle>
      ))}
      {(ports?.outputs ?? []).map((port, k) => (
        <Handle
          key={port.id}
          id={port.id}
          type="source"
          position={Position.Right}
          className="port"
          data-kind={port.kind}
          style={{ top: spread(ports?.outputs.length ?? 1, k) }}
          aria-label={`${title}, output ${port.title}`}
        >
          <PortMark kind={port.kind} />
          <span className="port-name">{port.title}</span>
        </Handle>
      ))}
    </div>
  );
});

const shortFigure = (value: number): string =>
  Number.isFinite(value)
    ? Math.abs(value) >= 1000
      ? value.toExponential(1)
      : value.toFixed(2)
    : 'none';

function ValuesInUse({ node }: { readonly node: NodeInstance }) {
  const document = useEditor((state) => state.document);
  const path = useEditor((state) => state.path);
  const board = boardAt(document, path);
  const group = board === null ? undefined : document.groups[board];
  const ports = describePorts(document, node)?.inputs ?? [];
  const choice = Object.entries(findDefinition(node.type)?.options ?? {})
    .map(([id, entry]) =>
      entry.choices.find((each) => each.value === (node.options[id] ?? entry.default)),
    )
    .find(Boolean);
  const typed = Object.entries(node.values)
    .flatMap(([id, value]) => {
      const port = ports.find((each) => each.id === id);
      return port ? [{ id, title: port.title, kind: port.kind, value }] : [];
    })
    .slice(0, 2);
  const drives =
    group?.dials.flatMap((dial) =>
      dial.drives
        .filter((drive) => drive.node === node.id)
        .map((drive) => ({ dial: dial.name, input: drive.input })),
    ) ?? [];
  return (
    <div className="px-1.5 pb-1 text-[10.5px] leading-[14px] text-soft">
      {choice && Object.keys(findDefinition(node.type)?.options ?? {}).length === 1 ? (
        <div className="truncate">{choice.title}</div>
      ) : null}
      {typed.map(({ id, title, kind, value }) => (
        <div key={id} className="flex justify-between gap-1">
          <span className="truncate">{title}</span>
          <ShownValue value={value} isColour={kind === 'colour'} />
        </div>
      ))}
      {drives.map(({ dial, input }) => (
        <div
          key={`${dial}${input}`}
          className="mt-0.5 truncate rounded-[2px] border border-seam px-1 text-ink"
          title={`Driven by the dial ${dial}`}
        >
          ⊶ {dial}
        </div>
      ))}
    </div>
  );
}

function ShownValue({
  value,
  isColour,
}: {
  readonly value: InputValue;
  readonly isColour: boolean;
}) {
  if (typeof value === 'number') return <span className="figures">{shortNumber(value)}</span>;
  if (isTriple(value) && !isColour)
    return <span className="figures">{value.map((x) => shortNumber(x)).join(' ')}</span>;
  if (isTriple(value))
    return (
      <span
        className="inline-block h-[11px] w-5 border border-line"
        style={{ background: toHex(value) }}
      />
    );
  if (isImage(value)) return <span className="max-w-[70px] truncate">{value.name}</span>;
  return isRamp(value) ? <span>{value.stops.length} stops</span> : null;
}
