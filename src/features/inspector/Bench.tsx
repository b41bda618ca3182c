'use client';
import { useMemo } from 'react';
import type { ComponentType } from 'react';
import { describeNode, findNodeDefinition, idleInputs } from '@/core/compile/catalogue';
import { getNetwork } from '@/core/edit/board';
import { findListChain } from '@/core/edit/repeat';
import type { GroupDefinition, NodeInstance } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import { useBoardFindings } from '@/state/use-findings';
import { AdviceList } from './AdviceList';
import { AmountRow } from './AmountRow';
import { BenchHeader } from './BenchHeader';
import { BenchPicture } from './BenchPicture';
import { ByExample } from './ByExample';
import { NodeSheets, useAsked } from './NodeSheets';
import { FindingNotes } from './FindingNotes';
import { MeasureRow } from './MeasureRow';
import { InputRows } from './InputRows';
import { RepeatField } from './SelectionBench';
import { SurfaceShares } from './SurfaceShares';
import { ShapeEditors } from './ShapeEditors';
import { StrandBench } from './StrandBench';
import { stores } from '@/state/stores';
import { useBoardId, useCard } from '@/state/use-card';
import { useDocument, useView } from '@/state/use-stores';

interface BenchProps {
  readonly evaluation: Evaluation | null;
  /** Offered inside groups. */
  readonly onExpose: ((node: string, input: string) => void) | null;
  /** The variants of a group's card, to be applied. */
  readonly Variants: ComponentType<{
    readonly group: GroupDefinition;
    readonly card: NodeInstance;
    readonly path: readonly string[];
    readonly evaluation: Evaluation | null;
  }>;
}

/** The workbench under the board: all there is to set on the chosen node or strand. */
export function Bench(props: BenchProps) {
  const board = useBoardId();
  const chosenStrand = useView((state) => state.chosenStrand);
  const only = useView(({ selection }) => (selection.length === 1 ? selection[0] : undefined));
  const strand = useDocument(({ document }) =>
    chosenStrand === null
      ? undefined
      : getNetwork(document, board).strands.find((each) => each.id === chosenStrand),
  );
  const { node } = useCard(only ?? '');
  if (strand) return <StrandBench strand={strand} />;
  return node ? <NodeBench key={node.id} node={node} {...props} /> : null;
}

/** Inputs with an editor of their own, which stand above the rows. */
const SHAPES: ReadonlySet<string> = new Set(['ramp', 'curve', 'formula']);

function NodeBench(props: BenchProps & { readonly node: NodeInstance }) {
  const { node, evaluation, onExpose, Variants } = props;
  const path = useView((state) => state.path);
  const { asked, compareOption, compareValue, ask, close } = useAsked();
  const board = useBoardId();
  const { group } = useCard(node.id);
  const definition = findNodeDefinition(node);
  const ports = describeNode(node, group);
  const idle = new Set(idleInputs(node));
  const findings = useBoardFindings(({ place }) => place.node === node.id);
  const isFaulty = (id: string): boolean => findings.some(({ place }) => place.input === id);
  const shown = (ports?.inputs ?? []).filter((port) => !idle.has(port.id) || isFaulty(port.id));
  const [first] = ports?.outputs ?? [];
  return (
    <div className="scaled flex h-full gap-4 overflow-auto p-3" data-testid="bench">
      <BenchPicture node={node} outputs={ports?.outputs ?? []} />
      <div className="min-w-0 flex-1">
        <BenchHeader node={node} onCompare={compareOption} onExpose={onExpose} onAsk={ask} />
        <NodeSheets node={node} asked={asked} evaluation={evaluation} onClose={close} />
        <p
          tabIndex={0}
          className={
            'mb-1 line-clamp-2 max-w-[640px] text-[11px] text-soft hover:line-clamp-none ' +
            'focus:line-clamp-none'
          }
          title={`${definition?.help ?? ''}\n${definition?.formula ?? ''}`}
        >
          {definition?.help ?? group?.description}
        </p>
        <AmountRow node={node} />
        <ListChainRow id={node.id} board={board} />
        <FindingNotes findings={findings} />
        <AdviceList node={node} />
        <MeasureRow node={node} />
        <ByExample node={node} evaluation={evaluation} />
        {evaluation && first?.kind === 'surface' ? (
          <SurfaceShares node={node.id} board={board} evaluation={evaluation} />
        ) : null}
        {group ? (
          <Variants {...{ group, evaluation }} card={node} path={[...path, node.id]} />
        ) : null}
        <ShapeEditors {...{ node, findings, onExpose, evaluation }} ports={shown} />
        <InputRows
          node={node}
          ports={shown.filter((port) => !SHAPES.has(port.kind))}
          board={board}
          onExpose={onExpose}
          onCompare={evaluation ? compareValue : null}
        />
      </div>
    </div>
  );
}

/** Offers to repeat the chain of a node that ends in a list. */
function ListChainRow({ id, board }: { readonly id: string; readonly board: string | null }) {
  const strands = useDocument(({ document }) => getNetwork(document, board).strands);
  const endsInList = useMemo(
    () =>
      strands.length > 0 &&
      findListChain(stores.document.getState().document, board, [id]) !== null,
    [strands, board, id],
  );
  return endsInList ? (
    <div className="mb-1 text-[12px] text-soft">
      <RepeatField ids={[id]} />
    </div>
  ) : null;
}
