'use client';
import type { Node, NodeProps } from '@xyflow/react';
import { Link2, Pin } from 'lucide-react';
import { memo, useMemo } from 'react';
import { describeNode, findNodeDefinition } from '@/core/compile/catalogue';
import type { NodeInstance } from '@/core/graph/document';
import { useAdvice } from '@/state/use-advice';
import { useCardFindings } from '@/state/use-findings';
import type { TapResult } from '@/core/evaluate/tap-results';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { useSteady } from '@/ui/use-steady';
import { CardHandles } from './CardHandles';
import { CardMarks } from './CardMarks';
import { CardValues } from './CardValues';
import { FamilyStitch } from './FamilyStitch';
import { CARD_WIDTH, PICTURE, pictureHeight } from './card-geometry';
import { cardPorts } from './card-ports';
import { enterGroup, keyOnBoard, togglePin } from '@/state/editing';
import { useResults, useView } from '@/state/use-stores';
import { useCard } from '@/state/use-card';
import { WaitingMark } from './WaitingMark';
import type { CardView } from '@/state/use-card';

/** The folded edge that tells the card of a group from that of a node. */
const HEM = 'absolute inset-y-0 w-[3px] border-y border-seam bg-raised';

interface CardData extends Record<string, unknown> {
  readonly nodeId: string;
  readonly isDistant: boolean;
  /** The output whose picture it shows; null where it has none. */
  readonly output: string | null;
}
export type CardNode = Node<CardData, 'card'>;

export const getTitle = (node: NodeInstance, groupName: string | undefined): string =>
  node.name ?? groupName ?? findNodeDefinition(node)?.title ?? node.type;

/** A node as a card: its live output first, then its name and the few values in use. */
export const NodeCard = memo(function NodeCard({
  data: { nodeId, isDistant },
  selected,
}: NodeProps<CardNode>) {
  const card = useCard(nodeId);
  if (!card.node) return null;
  return isDistant ? (
    <DistantCard card={card} node={card.node} isSelected={selected} />
  ) : (
    <Card card={card} node={card.node} isSelected={selected} />
  );
});

interface CardProps {
  readonly card: CardView;
  readonly node: NodeInstance;
  readonly isSelected: boolean;
}

/** Only what is chosen and moved: the picture of the whole board shows the rest. */
function DistantCard({ card: { group }, node, isSelected }: CardProps) {
  const isPinned = useView(
    ({ pin, path }) => pin?.startsWith(keyOnBoard(path, node.id, '')) ?? false,
  );
  const words = useCardFindings(node.id, node.group)
    .map(({ message }) => message)
    .join('\n');
  const title = getTitle(node, group?.name);
  return (
    <div
      data-testid={`card-${node.id}`}
      data-title={title}
      title={title}
      className={
        `card-distant ${isSelected ? 'stitched card-chosen' : ''} ` +
        (isPinned ? 'ring-8 ring-weld' : '')
      }
      onDoubleClick={() => {
        if (group) enterGroup(node.id);
      }}
    >
      {words === '' ? null : (
        <span
          role="img"
          title={words}
          aria-label={words}
          data-testid="card-findings"
          className="distant-fault"
        />
      )}
      <span className="distant-name">{title}</span>
    </div>
  );
}

function Card({ card, node, isSelected }: CardProps) {
  const detail = useView((state) => state.detail);
  const path = useView((state) => state.path);
  const { group } = card;
  const findings = useCardFindings(node.id, node.group);
  const described = useMemo(() => describeNode(node, group), [node, group]);
  const ports = useSteady(cardPorts(card, node, described));
  const keys = (described?.outputs ?? []).map((output) => keyOnBoard(path, node.id, output.id));
  const pin = useView((state) =>
    state.pin !== null && keys.includes(state.pin) ? state.pin : null,
  );
  const isDriven = useView((state) => state.driven.includes(node.id));
  const title = getTitle(node, group?.name);
  return (
    <div
      data-testid={`card-${node.id}`}
      data-title={title}
      className={
        'relative h-full rounded-[3px] border border-line bg-panel ' +
        `${isSelected ? 'stitched card-chosen' : ''} ${pin === null ? '' : 'ring-2 ring-weld'} ` +
        `${node.off ? 'card-off' : ''} ${isDriven ? 'card-driven' : ''}`
      }
      style={{ width: CARD_WIDTH }}
      onDoubleClick={() => {
        if (group) enterGroup(node.id);
      }}
    >
      {group ? <span className={`${HEM} -left-[5px] border-l`} /> : null}
      {group ? <span className={`${HEM} -right-[5px] border-r`} /> : null}
      <CardPicture
        node={node}
        title={title}
        outputKey={keys[0] ?? null}
        isPinned={pin !== null}
        findings={findings}
      />
      <div className="card-title flex items-center gap-1 px-1.5">
        <FamilyStitch family={findNodeDefinition(node)?.family ?? 'group'} />
        <span className="card-name truncate font-medium" title={title}>
          {title}
        </span>
        {group?.release ? <WaitingMark entryId={group.release.entryId} /> : null}
        {node.twin === undefined ? null : (
          <Link2 size={11} className="ml-auto shrink-0" aria-label="linked copy" />
        )}
      </div>
      {node.folded || detail === 'far' ? null : (
        <div className="card-figures">
          <CardRange outputKey={keys[0] ?? null} />
          <CardValues node={node} ports={described} />
        </div>
      )}
      <CardHandles {...{ title, ports, findings }} isFolded={node.folded === true} />
    </div>
  );
}

const useTap = (key: string | null): TapResult | undefined =>
  useResults((state) => (key === null ? undefined : state.taps.get(key)));

interface PictureProps {
  readonly node: NodeInstance;
  readonly title: string;
  readonly outputKey: string | null;
  readonly isPinned: boolean;
  readonly findings: ReturnType<typeof useCardFindings>;
}

function CardPicture({ node, title, outputKey, isPinned, findings }: PictureProps) {
  const tap = useTap(outputKey);
  const advice = useAdvice(node);
  const isStopped = useResults((state) => (state.problem?.findings?.length ?? 0) > 0);
  const waiting = isStopped ? 'not computed' : 'weaving …';
  const waitingWords = outputKey === null ? 'unknown node' : waiting;
  return (
    <div
      className="relative m-1 overflow-hidden bg-stage"
      style={{ width: PICTURE, height: pictureHeight(node) }}
    >
      {tap ? (
        <PictureCanvas
          picture={tap.picture}
          label={`${title}: its output on the model`}
          className="h-[124px] w-[124px]"
        />
      ) : (
        <span className="absolute inset-0 grid place-items-center text-[11px] text-soft">
          {waitingWords}
        </span>
      )}
      <OlderMark nodeId={node.id} />
      <PinButton title={title} outputKey={outputKey} isPinned={isPinned} />
      <CardMarks
        advice={advice}
        findings={findings}
        isOff={node.off === true}
        amount={node.amount ?? 1}
      />
    </div>
  );
}

/** A picture of a state before says so while the next one is computed. */
function OlderMark({ nodeId }: { readonly nodeId: string }) {
  const isOlder = useResults((state) => state.older.has(nodeId));
  if (!isOlder) return null;
  return (
    <span
      role="img"
      aria-label="older than the material"
      title="This picture is older than the material; the next one is being computed."
      className="older-mark absolute inset-x-0 top-0 h-[5px]"
      data-testid="older-card"
    />
  );
}

type PinProps = Pick<PictureProps, 'title' | 'outputKey' | 'isPinned'>;
const PinButton = memo(function PinButton({ title, outputKey, isPinned }: PinProps) {
  return (
    <button
      type="button"
      aria-label={isPinned ? `Take ${title} off the stage` : `Pin ${title} on the stage`}
      aria-pressed={isPinned}
      disabled={outputKey === null}
      className={
        'nodrag absolute right-0.5 bottom-0.5 rounded-[2px] p-1 ' +
        (isPinned ? 'bg-weld text-weld-ink' : 'bg-line/70 text-ink hover:bg-line')
      }
      onClick={(event) => {
        event.stopPropagation();
        if (outputKey !== null) togglePin(outputKey);
      }}
    >
      <Pin size={12} />
    </button>
  );
});

function CardRange({ outputKey }: { readonly outputKey: string | null }) {
  const tap = useTap(outputKey);
  if (tap?.isKnown === false)
    return (
      <div className="h-[18px] px-1.5 text-[10px] leading-[14px] text-soft" data-testid="not-known">
        not known yet
      </div>
    );
  const statistics = tap?.statistics;
  if (!statistics) return <div className="h-[18px]" />;
  return (
    <div
      className={
        'figures flex h-[18px] justify-between px-1.5 pb-1 text-[10px] leading-[14px] text-soft'
      }
      data-testid="range"
    >
      <span>{shortFigure(statistics.minimum)}</span>
      <span>{shortFigure(statistics.maximum)}</span>
    </div>
  );
}

function shortFigure(value: number): string {
  if (!Number.isFinite(value)) return 'none';
  return Math.abs(value) >= 1000 ? value.toExponential(1) : value.toFixed(2);
}
