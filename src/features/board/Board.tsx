'use client';
import { addReadyGroup } from '@/core/edit/ready-groups';
import { Background, ReactFlow, ReactFlowProvider, useReactFlow, useStoreApi } from '@xyflow/react';
import type {
  Connection,
  Edge,
  FinalConnectionState,
  Node,
  NodeChange,
  Viewport,
} from '@xyflow/react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { describePorts, mayConnect } from '@/core/compile/catalogue';
import { networkOf } from '@/core/edit/board';
import { addBend, addNote, addRegion, isBend, moveMarks } from '@/core/edit/marks';
import type { Place } from '@/core/edit/marks';
import { addNode, moveNodes } from '@/core/edit/nodes';
import { canConnect, connect, inputKind, insertIntoStrand, outputKind } from '@/core/edit/strands';
import type { NetworkDocument } from '@/core/graph/document';
import type { PortKind } from '@/core/nodes/define';
import type { PlacedFinding } from '@/state/findings-state';
import { useBoardFindings } from '@/state/use-findings';
import { BEND, boardEdges, boardNodes } from './board-elements';
import type { BoardNode } from './board-elements';
import { BendMark, NoteMark, RegionMark } from './BoardMarks';
import { NodeCard } from './NodeCard';
import { NodePalette } from './NodePalette';
import type { PaletteChoice } from './NodePalette';
import { SELVEDGE_WIDTH, Selvedge } from './Selvedge';
import { StrandEdge } from './StrandEdge';
import { useBoardKeys } from './use-board-keys';
import { commit, currentBoard, endGesture, select } from '@/state/editing';
import { boardAt } from '@/state/board-path';
import { stores } from '@/state/stores';
import { useDocument, useResults, useView } from '@/state/use-stores';

const NODE_TYPES = {
  card: NodeCard,
  selvedge: Selvedge,
  note: NoteMark,
  region: RegionMark,
  bend: BendMark,
};
const EDGE_TYPES = { strand: StrandEdge };
const isOfStrand = ({ place }: PlacedFinding): boolean => place.strand !== undefined;
/** The zoom below which a card that is gone to cannot be read. */
const READABLE = 0.6;
type OpenEnd = {
  readonly node: string;
  readonly port: string;
  readonly kind: PortKind;
  readonly end: 'input' | 'output';
};
interface PaletteState {
  readonly x: number;
  readonly y: number;
  readonly initial: string;
  readonly open: OpenEnd | null;
}

/** Lights up the ports a strand may go to, by class names on their elements. */
function markFitting(host: HTMLElement, document: NetworkDocument, from: OpenEnd | null): void {
  host.classList.toggle('connecting', from !== null);
  for (const port of host.querySelectorAll<HTMLElement>('.port')) {
    const node = port.dataset['nodeid'] ?? '',
      id = port.dataset['handleid'] ?? '';
    const isInput = port.classList.contains('target');
    const fits =
      from !== null &&
      isInput === (from.end === 'input') &&
      (from.end === 'input'
        ? canConnect(
            document,
            currentBoard(),
            { node: from.node, output: from.port },
            { node, input: id },
          )
        : canConnect(
            document,
            currentBoard(),
            { node, output: id },
            { node: from.node, input: from.port },
          ));
    port.classList.toggle('fits', fits);
  }
}

function BoardInside() {
  const host = useRef<HTMLDivElement>(null);
  const pointer = useRef({ x: 0, y: 0 });
  const flow = useReactFlow();
  const store = useStoreApi();
  const document = useDocument((state) => state.document);
  const path = useView((state) => state.path);
  const selection = useView((state) => state.selection);
  const kinds = useResults((state) => state.kinds);
  const chosenStrand = useView((state) => state.chosenStrand);
  const board = boardAt(document, path);
  const [measured, setMeasured] = useState<ReadonlyMap<string, { width: number; height: number }>>(
    new Map(),
  );
  const [viewport, setViewport] = useState<Viewport>({ x: 0, y: 0, zoom: 1 });
  const [size, setSize] = useState({ width: 800, height: 400 });
  const [palette, setPalette] = useState<PaletteState | null>(null);

  const edges = useMemo(() => {
    const y = (size.height * 0.32 - viewport.y) / viewport.zoom;
    return {
      in: [-viewport.x / viewport.zoom, y] as const,
      out: [(size.width - SELVEDGE_WIDTH - viewport.x) / viewport.zoom, y] as const,
    };
  }, [size, viewport]);
  const nodes = useMemo(
    () => boardNodes(document, board, selection, measured, edges),
    [document, board, selection, measured, edges],
  );
  const faults = useBoardFindings(isOfStrand);
  const strands = useMemo(
    () => boardEdges(document, board, path, kinds, chosenStrand, faults),
    [document, board, path, kinds, chosenStrand, faults],
  );

  const fit = useCallback(() => {
    const ids = networkOf(stores.document.getState().document, currentBoard()).nodes.map(
      (node) => ({
        id: node.id,
      }),
    );
    if (ids.length > 0)
      void flow.fitView({
        nodes: ids,
        padding: { left: '112px', right: '112px', top: '16px', bottom: '24px' },
        maxZoom: 1.1,
        duration: 0,
      });
  }, [flow]);
  useEffect(() => {
    const element = host.current;
    if (!element) return;
    const observer = new ResizeObserver(() => {
      setSize({ width: element.clientWidth, height: element.clientHeight });
    });
    observer.observe(element);
    return () => {
      observer.disconnect();
    };
  }, []);
  const revealed = useView((state) => state.revealed);
  useEffect(() => {
    if (revealed.length === 0) return;
    // The board of another group lays its cards out first, and frames them all.
    const timer = setTimeout(() => {
      const card = revealed.map((id) => flow.getInternalNode(id)).find(Boolean);
      if (!card) return;
      const { x, y } = card.internals.positionAbsolute;
      const { width = 132, height = 180 } = card.measured;
      const zoom = Math.max(READABLE, flow.getZoom());
      void flow.setCenter(x + width / 2, y + height / 2, { zoom, duration: 0 });
    }, 180);
    return () => {
      clearTimeout(timer);
    };
  }, [flow, revealed]);
  const materialId = useDocument((state) => state.materialId);
  const fitRequests = useView((state) => state.fitRequests);
  useEffect(() => {
    const timer = setTimeout(fit, 120);
    return () => {
      clearTimeout(timer);
    };
  }, [fit, board, materialId, fitRequests]);

  const change = useCallback((changes: NodeChange<BoardNode>[]) => {
    const sizes = changes.filter((each) => each.type === 'dimensions' && each.dimensions);
    if (sizes.length > 0)
      setMeasured((old) => {
        const next = new Map(old);
        for (const each of sizes)
          if (each.type === 'dimensions' && each.dimensions) next.set(each.id, each.dimensions);
        return next;
      });
    const moved = changes.flatMap((each) =>
      each.type === 'position' && each.position
        ? [[each.id, placeOf(each.id, each.position)] as const]
        : [],
    );
    if (moved.length > 0)
      commit(
        'Moved',
        (current, at) => moveMarks(moveNodes(current, at, new Map(moved)), at, new Map(moved)),
        'move',
      );
    const chosen = changes.filter((each) => each.type === 'select');
    if (chosen.length > 0) {
      const next = new Set(stores.view.getState().selection);
      for (const each of chosen)
        if (each.type === 'select') {
          if (each.selected) next.add(each.id);
          else next.delete(each.id);
        }
      select([...next]);
    }
  }, []);

  const lay = useCallback(({ source, sourceHandle, target, targetHandle }: Connection) => {
    if (sourceHandle && targetHandle)
      commit('Laid a strand', (current, at) =>
        connect(
          current,
          at,
          { node: source, output: sourceHandle },
          { node: target, input: targetHandle },
        ),
      );
  }, []);
  const openEnd = (node: string, port: string, type: 'source' | 'target'): OpenEnd | null => {
    const at = currentBoard();
    const kind =
      type === 'source'
        ? outputKind(document, at, { node, output: port })
        : inputKind(document, at, { node, input: port });
    return kind ? { node, port, kind, end: type === 'source' ? 'input' : 'output' } : null;
  };
  const endStrand = (event: MouseEvent | TouchEvent, state: FinalConnectionState): void => {
    if (host.current) markFitting(host.current, document, null);
    if (state.isValid || !state.fromHandle?.id || state.toHandle) return;
    const at = 'clientX' in event ? event : event.changedTouches[0];
    if (at)
      setPalette({
        x: at.clientX,
        y: at.clientY,
        initial: '',
        open: openEnd(state.fromHandle.nodeId, state.fromHandle.id, state.fromHandle.type),
      });
  };

  const choose = (choice: PaletteChoice): void => {
    const { x, y, open } = palette ?? { x: 0, y: 0, open: null };
    setPalette(null);
    const place = flow.screenToFlowPosition({ x, y });
    const at = [Math.round(place.x), Math.round(place.y)] as const;
    if ('note' in choice)
      return commit('Added a note', (current, on) => addNote(current, on, at, ''));
    if ('region' in choice)
      return commit('Added a region', (current, on) =>
        addRegion(current, on, at, [360, 260], 'Region'),
      );
    const strand = stores.view.getState().chosenStrand;
    let id = '';
    commit('Added a node', (current, on) => {
      const added =
        'ready' in choice
          ? addReadyGroup(current, on, choice.ready, at)
          : addNode(current, on, choice.type, at, choice.group, choice.options);
      id = added.id;
      if (open) return joinOpenEnd(added.document, id, open);
      return strand ? insertIntoStrand(added.document, on, strand, id) : added.document;
    });
    if (id) select([id]);
    host.current?.focus();
  };
  const bend = (event: React.MouseEvent, strand: string): void => {
    const place = flow.screenToFlowPosition({ x: event.clientX, y: event.clientY });
    const ends = strandEnds(
      flow.getNodes(),
      flow.getEdges().find((edge) => edge.id === strand),
    );
    commit('Bent a strand', (current, on) =>
      addBend(current, on, strand, [Math.round(place.x), Math.round(place.y)], ends),
    );
  };
  useBoardKeys(host, {
    openPalette: (initial) => {
      setPalette({ ...pointer.current, initial, open: null });
    },
    fit,
    pointer,
  });

  const dropped = (
    event: MouseEvent | TouchEvent | React.MouseEvent | React.TouchEvent,
    nodeId: string,
  ): void => {
    endGesture();
    if (!('clientX' in event)) return;
    const network = networkOf(stores.document.getState().document, currentBoard());
    if (network.strands.some((each) => each.from.node === nodeId || each.to.node === nodeId))
      return;
    const under = window.document
      .elementsFromPoint(event.clientX, event.clientY)
      .map((element) => element.getAttribute('data-strand'))
      .find(Boolean);
    if (under)
      commit('Inserted into a strand', (current, at) =>
        insertIntoStrand(current, at, under, nodeId),
      );
  };

  return (
    <div
      ref={host}
      tabIndex={0}
      aria-label="Board. Type to add a node."
      className="board-warp relative h-full w-full outline-none"
      data-testid="board"
      onPointerMove={(event) => {
        pointer.current = { x: event.clientX, y: event.clientY };
      }}
    >
      <ReactFlow
        nodes={nodes}
        edges={strands}
        nodeTypes={NODE_TYPES}
        edgeTypes={EDGE_TYPES}
        onNodesChange={change}
        onConnect={lay}
        minZoom={0.12}
        maxZoom={2}
        isValidConnection={({ source, sourceHandle, target, targetHandle }) =>
          sourceHandle != null &&
          targetHandle != null &&
          canConnect(
            document,
            board,
            { node: source, output: sourceHandle },
            { node: target, input: targetHandle },
          )
        }
        onConnectStart={(_, { nodeId, handleId, handleType }) => {
          if (host.current && nodeId && handleId && handleType)
            markFitting(host.current, document, openEnd(nodeId, handleId, handleType));
        }}
        onConnectEnd={endStrand}
        onNodeDragStop={(event, node) => {
          dropped(event, node.id);
        }}
        onEdgeDoubleClick={(event, edge) => {
          bend(event, edge.id);
        }}
        onEdgeClick={(_, edge) => {
          select([], edge.id);
          host.current?.focus();
        }}
        onPaneClick={() => {
          select([]);
          host.current?.focus();
        }}
        onNodeClick={() => {
          host.current?.focus();
        }}
        onViewportChange={setViewport}
        onPaneContextMenu={(event) => {
          event.preventDefault();
          setPalette({ x: event.clientX, y: event.clientY, initial: '', open: null });
        }}
        connectionRadius={26}
        selectionOnDrag
        panOnDrag={[1, 2]}
        panOnScroll={false}
        zoomOnDoubleClick={false}
        deleteKeyCode={null}
        multiSelectionKeyCode="Shift"
        selectionKeyCode={null}
        disableKeyboardA11y={false}
        nodeDragThreshold={3}
        connectionLineStyle={{ stroke: 'var(--weld)', strokeWidth: 1.6 }}
        onInit={() => {
          store.getState();
        }}
      >
        <Background color="transparent" />
      </ReactFlow>
      {palette ? (
        <NodePalette
          x={palette.x}
          y={palette.y}
          initial={palette.initial}
          groups={Object.values(document.groups)}
          fitting={palette.open}
          onChoose={choose}
          onClose={() => {
            setPalette(null);
          }}
        />
      ) : null}
    </div>
  );
}

/** Where something stands in the document, by where its mark's corner is drawn. */
function placeOf(id: string, { x, y }: { readonly x: number; readonly y: number }): Place {
  const half = isBend(id) ? BEND / 2 : 0;
  return [Math.round(x + half), Math.round(y + half)];
}

/** Roughly where a strand begins and ends: beside its two nodes. */
function strandEnds(nodes: readonly Node[], edge: Edge | undefined): readonly [Place, Place] {
  const [start, end] = [
    nodes.find((node) => node.id === edge?.source),
    nodes.find((node) => node.id === edge?.target),
  ];
  return [
    [(start?.position.x ?? 0) + (start?.measured?.width ?? 0), (start?.position.y ?? 0) + 60],
    [end?.position.x ?? 0, (end?.position.y ?? 0) + 60],
  ];
}

function joinOpenEnd(document: NetworkDocument, id: string, open: OpenEnd): NetworkDocument {
  const board = currentBoard();
  const node = networkOf(document, board).nodes.find((each) => each.id === id);
  const ports = node && describePorts(document, node);
  if (open.end === 'input') {
    const input = ports?.inputs.find((port) => mayConnect(open.kind, port.kind));
    return input
      ? connect(
          document,
          board,
          { node: open.node, output: open.port },
          { node: id, input: input.id },
        )
      : document;
  }
  const output = ports?.outputs.find((port) => mayConnect(port.kind, open.kind));
  return output
    ? connect(
        document,
        board,
        { node: id, output: output.id },
        { node: open.node, input: open.port },
      )
    : document;
}

/** The board of the open material, or of the group that was entered. */
export function Board() {
  return (
    <ReactFlowProvider>
      <BoardInside />
    </ReactFlowProvider>
  );
}
