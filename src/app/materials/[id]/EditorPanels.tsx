'use client';
import { Fragment, useCallback, useEffect, useRef, useState } from 'react';
import type { RefObject } from 'react';
import { Group, Panel, Separator, usePanelRef } from 'react-resizable-panels';
import type { PanelImperativeHandle } from 'react-resizable-panels';
import type { ModelEntry } from '@/contract/models';
import { Board } from '@/features/board/Board';
import type { Exposing } from '@/features/front/dial-ends';
import { Front } from '@/features/front/Front';
import { OutsideStrip } from '@/features/front/OutsideStrip';
import { GuideStrip } from '@/features/guide/GuideStrip';
import { Bench } from '@/features/inspector/Bench';
import { DialSetting } from '@/features/inspector/DialSetting';
import { BenchHint, useBenchIsOpen } from '@/features/inspector/BenchHint';
import { Stage } from '@/features/stage/Stage';
import { VariantStrip } from '@/features/variants/VariantStrip';
import { VariantsPanel } from '@/features/variants/VariantsPanel';
import { FindPanel } from '@/features/view/FindPanel';
import { useViewKeys } from '@/features/view/use-view-keys';
import type { Evaluation } from '@/state/evaluation';
import { useOpenGroup, useView } from '@/state/use-stores';
import { ErrorBoundary } from '@/ui/ErrorBoundary';
import { Trail } from './Trail';

interface Props {
  readonly evaluation: Evaluation;
  readonly models: readonly ModelEntry[];
  readonly onPublish: () => void;
  readonly onPapers: () => void;
}

/** Stage, board and bench at once, as far as none is hidden. */
export function EditorPanels({ evaluation, models, ...asked }: Props) {
  const hidden = useView((state) => state.hidden);
  useViewKeys();
  const stage = useStageWidth();
  const hasStage = !hidden.has('stage');
  const hasWork = !hidden.has('board') || !hidden.has('bench');
  return (
    <Group orientation="horizontal" className="min-h-0 flex-1">
      {hasStage ? (
        <Panel id="panel-stage" panelRef={stage} defaultSize={WIDE_STAGE} minSize="15%">
          <ErrorBoundary name="The stage">
            <Stage evaluation={evaluation} models={models} />
          </ErrorBoundary>
        </Panel>
      ) : null}
      {hasStage && hasWork ? <Separator className="w-[5px] bg-line hover:bg-seam" /> : null}
      {hasWork ? (
        <Panel id="panel-work" minSize="25%">
          <WorkArea evaluation={evaluation} {...asked} />
        </Panel>
      ) : null}
    </Group>
  );
}

const WIDE_STAGE = '37%';
const NARROW_STAGE = '25%';
/** On screens narrower than this the board of a group gets room from the stage, pixels. */
const ROOMY = 1440;

/**
 * Inside a group its front stands beside the board, too: on a small screen the stage gives room, so
 * that cards stay readable, and takes it back outside unless somebody changed it.
 */
function useStageWidth(): RefObject<PanelImperativeHandle | null> {
  const panel = usePanelRef();
  const isGroup = useOpenGroup() !== null;
  const given = useRef<number | null>(null);
  useEffect(() => {
    const { current } = panel;
    if (!current) return;
    if (isGroup && window.innerWidth < ROOMY) {
      const before = current.getSize().asPercentage;
      if (before <= parseFloat(NARROW_STAGE)) return;
      given.current = before;
      current.resize(NARROW_STAGE);
    } else if (!isGroup && given.current !== null) {
      const isAsGiven = Math.abs(current.getSize().asPercentage - parseFloat(NARROW_STAGE)) < 1;
      if (isAsGiven) current.resize(`${String(given.current)}%`);
      given.current = null;
    }
  }, [isGroup, panel]);
  return panel;
}

type WorkProps = Pick<Props, 'evaluation' | 'onPublish' | 'onPapers'>;

/** The board, and the bench under it; an empty bench takes one line. */
function WorkArea({ evaluation, ...asked }: WorkProps) {
  const isGroup = useOpenGroup() !== null;
  const hidden = useView((state) => state.hidden);
  const [exposing, setExposing] = useState<Exposing | null>(null);
  const isBenchOpen = useBenchIsOpen();
  const expose = useCallback((node: string, input: string): void => {
    setExposing({ node, input });
  }, []);
  const [hasBoard, hasBench] = [!hidden.has('board'), !hidden.has('bench')];
  return (
    <div className="flex h-full flex-col">
      <Group orientation="vertical" className="min-h-0 flex-1">
        {hasBoard ? (
          <Panel id="panel-board" minSize="20%">
            <BoardArea
              evaluation={evaluation}
              exposing={exposing}
              onExposed={() => {
                setExposing(null);
              }}
              {...asked}
            />
          </Panel>
        ) : null}
        {hasBench && isBenchOpen ? (
          <Fragment>
            {hasBoard ? <Separator className="h-[5px] bg-line hover:bg-seam" /> : null}
            <Panel id="panel-bench" defaultSize="33%" minSize="8%">
              <div className="h-full bg-panel">
                <ErrorBoundary name="The bench">
                  <Bench
                    evaluation={evaluation}
                    onExpose={isGroup ? expose : null}
                    Variants={VariantStrip}
                  />
                </ErrorBoundary>
              </div>
            </Panel>
          </Fragment>
        ) : null}
      </Group>
      <GuideStrip />
      {hasBench && !isBenchOpen ? <BenchHint /> : null}
    </div>
  );
}

interface BoardAreaProps extends WorkProps {
  readonly exposing: Exposing | null;
  readonly onExposed: () => void;
}

/** The board; inside a group, its front beside it and the outside above. */
function BoardArea(props: BoardAreaProps) {
  const path = useView((state) => state.path);
  const isGroup = useOpenGroup() !== null;
  const hasFront = useView((state) => !state.hidden.has('front'));
  return (
    <div className="flex h-full flex-col">
      {path.length > 0 ? (
        <div className="h-[clamp(92px,15vh,190px)] shrink-0 border-b border-line">
          <OutsideStrip />
        </div>
      ) : null}
      <Trail />
      <div className="flex min-h-0 flex-1">
        <div className="relative min-w-0 flex-1">
          <ErrorBoundary name="The board">
            <Board />
          </ErrorBoundary>
          <FindPanel />
        </div>
        {isGroup && hasFront ? (
          <div className="w-[clamp(262px,20vw,420px)] shrink-0">
            <Front {...props} Setting={DialSetting} Variants={VariantsPanel} />
          </div>
        ) : null}
      </div>
    </div>
  );
}
