'use client';
import { Background, ReactFlow, ReactFlowProvider } from '@xyflow/react';
import type {
  Connection,
  Edge,
  FinalConnectionState,
  Node,
  OnConnectStartParams,
} from '@xyflow/react';
import { useMemo, useRef } from 'react';
import { own } from '@/core/base/own';
import { findDefinition } from '@/core/compile/catalogue';
import { getNetwork } from '@/core/edit/board';
import { isMark } from '@/core/edit/marks';
import { insertIntoStrand } from '@/core/edit/strands';
import { outputKey } from '@/core/graph/result-key';
import { INPUT_EDGE, OUTPUT_EDGE } from '@/core/graph/document';
import type { NetworkDocument } from '@/core/graph/document';
import { pointAtPart } from '@/state/driven';
import { commit, currentBoard, endGesture, select } from '@/state/editing';
import { stores } from '@/state/stores';
import { exchange } from '@/state/rewiring';
import { useDocument, useView } from '@/state/use-stores';
import { BendMark, NoteMark, RegionMark } from './BoardMarks';
import { NodeCard } from './NodeCard';
import { NodePalette } from './NodePalette';
import { Overview } from './Overview';
import { Selvedge } from './Selvedge';
import { StrandEdge } from './StrandEdge';
import { cardAt, isFitting, landOn, layProposed, markFitting, openEndAt } from './board-strands';
import { useAdding } from './use-adding';
import { useBoardElements } from './use-board-elements';
import { useBoardKeys } from './use-board-keys';
import { useEntryDrop } from './use-entry-drop';
import { useImageDrop } from './use-image-drop';
import { useFraming } from './use-framing';

const NODE_TYPES = {
  card: NodeCard,
  selvedge: Selvedge,
  note: NoteMark,
  region: RegionMark,
  bend: BendMark,
};
const EDGE_TYPES = { strand: StrandEdge };

/** How the drawing library behaves on every board. */
const BEHAVIOUR = {
  nodeTypes: NODE_TYPES,
  edgeTypes: EDGE_TYPES,
  minZoom: 0.03,
  onlyRenderVisibleElements: true,
  maxZoom: 2,
  connectionRadius: 26,
  selectionOnDrag: true,
  panOnDrag: [1, 2],
  panOnScroll: false,
  zoomOnDoubleClick: false,
  deleteKeyCode: null,
  multiSelectionKeyCode: 'Shift',
  selectionKeyCode: null,
  disableKeyboardA11y: false,
  nodeDragThreshold: 3,
  connectionLineStyle: { stroke: 'var(--weld)', strokeWidth: 1.6 },
};

/** The board of the open material, or of the group that was entered. */
export function Board() {
  return (
    <ReactFlowProvider>
      <BoardInside />
    </ReactFlowProvider>
  );
}

type Adding = ReturnType<typeof useAdding>;

function BoardInside() {
  const host = useRef<HTMLDivElement>(null);
  useFraming();
  const adding = useAdding(host);
  const { pointer, setPalette, follow } = adding;
  const dropFiles = useImageDrop();
  const dropEntry = useEntryDrop();
  useBoardKeys(host, (initial) => {
    setPalette({ ...pointer.current, initial, open: null });
  });
  return (
    <div
      ref={host}
      tabIndex={0}
      role="application"
      aria-label="Board. Type to add a node."
      className="board-warp relative h-full w-full outline-none"
      data-testid="board"
      data-board
      onPointerMove={follow}
      onDrop={(event) => {
        dropEntry(event);
        dropFiles(event);
      }}
    >
      <Drawing host={host} adding={adding} />
      <Palette adding={adding} />
      <ExchangePalette host={host} />
    </div>
  );
}

interface DrawingProps {
  readonly host: React.RefObject<HTMLDivElement | null>;
  readonly adding: Adding;
}

const isEdge = (id: string): boolean => id === INPUT_EDGE || id === OUTPUT_EDGE;
const pointAtNothing = (): void => {
  pointAtPart(null);
};

/** What the drawing library calls back; the same functions for as long as the board is there. */
function useCallbacks(
  host: React.RefObject<HTMLDivElement | null>,
  { bend, setPalette }: Pick<Adding, 'bend' | 'setPalette'>,
) {
  return useMemo(() => {
    const now = (): NetworkDocument => stores.document.getState().document;
    const focus = (): void => {
      host.current?.focus();
    };
    const endStrand = (event: MouseEvent | TouchEvent, state: FinalConnectionState): void => {
      if (host.current) markFitting(host.current, now(), null);
      const { isValid, fromHandle, toHandle } = state;
      const at = 'clientX' in event ? event : event.changedTouches[0];
      if (isValid || !fromHandle?.id || toHandle || !at) return;
      const open = openEndAt(now(), fromHandle.nodeId, fromHandle.id, fromHandle.type);
      if (open && landOn(cardAt(at), open)) return;
      setPalette({ x: at.clientX, y: at.clientY, initial: '', open });
    };
    return {
      onConnect: layStrand,
      isValidConnection: (proposed: Connection | Edge) =>
        isFitting(now(), currentBoard(), proposed),
      onConnectStart: (_: unknown, { nodeId, handleId, handleType }: OnConnectStartParams) => {
        if (host.current && nodeId && handleId && handleType)
          markFitting(host.current, now(), openEndAt(now(), nodeId, handleId, handleType));
      },
      onConnectEnd: endStrand,
      onNodeDragStop: (event: MouseEvent | TouchEvent | React.MouseEvent, node: Node) => {
        dropCard(event, node.id);
      },
      onEdgeDoubleClick: (event: React.MouseEvent, edge: Edge) => {
        bend(event, edge.id);
      },
      onEdgeClick: (_: unknown, edge: Edge) => {
        select([], edge.id);
        focus();
      },
      onPaneClick: () => {
        select([]);
        focus();
      },
      onNodeClick: focus,
      // With the key held that asks: what of the picture this is.
      onNodeMouseMove: ({ altKey }: React.MouseEvent, { id }: Node) => {
        pointAtPart(altKey && !isMark(id) && !isEdge(id) ? { part: 'node', node: id } : null);
      },
      onNodeMouseLeave: pointAtNothing,
      onEdgeMouseMove: ({ altKey }: React.MouseEvent, { id }: Edge) => {
        pointAtPart(altKey ? { part: 'strand', id } : null);
      },
      onEdgeMouseLeave: pointAtNothing,
      onPaneContextMenu: (event: MouseEvent | React.MouseEvent) => {
        event.preventDefault();
        setPalette({ x: event.clientX, y: event.clientY, initial: '', open: null });
      },
    };
  }, [host, bend, setPalette]);
}

/** The cards and strands, drawn by the library; what it reports becomes edits. */
function Drawing({ host, adding }: DrawingProps) {
  const { nodes, edges, overview, viewport, size, onSelectionEnd, change, setViewport } =
    useBoardElements(host);
  const callbacks = useCallbacks(host, adding);
  return (
    <>
      {overview ? <Overview drawing={overview} viewport={viewport} {...size} /> : null}
      <ReactFlow
        {...BEHAVIOUR}
        {...callbacks}
        onSelectionEnd={onSelectionEnd}
        nodes={nodes}
        edges={edges}
        onNodesChange={change}
        onViewportChange={setViewport}
      >
        <Background color="transparent" />
      </ReactFlow>
    </>
  );
}

function layStrand(proposed: Connection): void {
  const { path } = stores.view.getState();
  const key = outputKey([...path, proposed.source], proposed.sourceHandle ?? '');
  const kind = stores.results.getState().kinds.get(key);
  commit('Connected a strand', (current, at) => layProposed(current, at, proposed, kind));
}

/** A card without strands that is dropped onto a strand is inserted into it. */
function dropCard(
  event: MouseEvent | TouchEvent | React.MouseEvent | React.TouchEvent,
  nodeId: string,
): void {
  endGesture();
  if (!('clientX' in event)) return;
  const under = window.document
    .elementsFromPoint(event.clientX, event.clientY)
    .map((element) => element.getAttribute('data-strand'))
    .find(Boolean);
  if (!under) return;
  const { document } = stores.document.getState();
  commit('Inserted into a strand', (current, at) => {
    const { strands } = getNetwork(document, at);
    const isWired = strands.some(({ from, to }) => from.node === nodeId || to.node === nodeId);
    return isWired ? current : insertIntoStrand(current, at, under, nodeId);
  });
}

/** What a node is exchanged for is searched for beside its card. */
function ExchangePalette({ host }: Pick<DrawingProps, 'host'>) {
  const id = useView((state) => state.exchanging);
  const groups = useDocument((state) => state.document.groups);
  const leave = (): void => {
    stores.view.setState({ exchanging: null });
    host.current?.focus();
  };
  if (id === null) return null;
  const card = host.current?.querySelector(`[data-testid="card-${CSS.escape(id)}"]`);
  const { right: x, top: y } = card?.getBoundingClientRect() ?? { right: 200, top: 120 };
  return (
    <NodePalette
      x={x}
      y={y}
      initial=""
      asks="What should take its place?"
      groups={Object.values(groups)}
      fitting={null}
      onChoose={(choice) => {
        leave();
        if (!('type' in choice)) return;
        const title = own(groups, choice.group ?? '')?.name ?? findDefinition(choice.type)?.title;
        exchange(id, choice, title ?? choice.type);
      }}
      onClose={leave}
    />
  );
}

function Palette({ adding: { palette, setPalette, choose } }: { readonly adding: Adding }) {
  const groups = useDocument((state) => state.document.groups);
  if (!palette) return null;
  return (
    <NodePalette
      x={palette.x}
      y={palette.y}
      initial={palette.initial}
      groups={Object.values(groups)}
      fitting={palette.open}
      onChoose={choose}
      onClose={() => {
        setPalette(null);
      }}
    />
  );
}
