'use client';
import { useState } from 'react';
import { Group, Panel, Separator } from 'react-resizable-panels';
import type { ModelEntry } from '@/contract/models';
import { Board } from '@/features/board/Board';
import type { Exposing } from '@/features/front/dial-ends';
import { Front } from '@/features/front/Front';
import { OutsideStrip } from '@/features/front/OutsideStrip';
import { Bench } from '@/features/inspector/Bench';
import { Stage } from '@/features/stage/Stage';
import type { Evaluation } from '@/state/evaluation';
import { useBoard } from '@/state/use-stores';
import { ErrorBoundary } from '@/ui/ErrorBoundary';
import { Trail } from './Trail';

interface Props {
  readonly evaluation: Evaluation;
  readonly models: readonly ModelEntry[];
  readonly onPublish: () => void;
}

/**
 * Stage, board and bench at once; inside a group, its front beside the board and the outside above.
 */
export function EditorPanels({ evaluation, models, onPublish }: Props) {
  const { group } = useBoard();
  const [exposing, setExposing] = useState<Exposing | null>(null);
  const expose = (node: string, input: string): void => {
    setExposing({ node, input });
  };
  return (
    <Group orientation="horizontal" className="min-h-0 flex-1">
      <Panel defaultSize="37%" minSize="15%">
        <ErrorBoundary name="The stage">
          <Stage evaluation={evaluation} models={models} />
        </ErrorBoundary>
      </Panel>
      <Separator className="w-[5px] bg-line hover:bg-seam" />
      <Panel minSize="25%">
        <Group orientation="vertical">
          <Panel minSize="20%">
            <BoardArea
              evaluation={evaluation}
              exposing={exposing}
              onExposed={() => {
                setExposing(null);
              }}
              onPublish={onPublish}
            />
          </Panel>
          <Separator className="h-[5px] bg-line hover:bg-seam" />
          <Panel defaultSize="33%" minSize="8%">
            <div className="h-full bg-panel">
              <ErrorBoundary name="The bench">
                <Bench evaluation={evaluation} onExpose={group ? expose : null} />
              </ErrorBoundary>
            </div>
          </Panel>
        </Group>
      </Panel>
    </Group>
  );
}

interface BoardAreaProps {
  readonly evaluation: Evaluation;
  readonly exposing: Exposing | null;
  readonly onExposed: () => void;
  readonly onPublish: () => void;
}

function BoardArea({ evaluation, exposing, onExposed, onPublish }: BoardAreaProps) {
  const { path, group } = useBoard();
  return (
    <div className="flex h-full flex-col">
      {path.length > 0 ? (
        <div className="h-[92px] shrink-0 border-b border-line">
          <OutsideStrip />
        </div>
      ) : null}
      <Trail />
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1">
          <ErrorBoundary name="The board">
            <Board />
          </ErrorBoundary>
        </div>
        {group ? (
          <div className="w-[262px] shrink-0">
            <Front
              evaluation={evaluation}
              exposing={exposing}
              onExposed={onExposed}
              onPublish={onPublish}
            />
          </div>
        ) : null}
      </div>
    </div>
  );
}
