import { toast } from 'sonner';
import { moveBeacon } from '@/core/edit/beacons';
import { describeError, problemText } from '@/core/base/problem';
import { isLost } from '@/workers/answer';
import type { Evaluation } from '@/state/evaluation';
import { RemoteStage } from './remote-stage';
import type { StageMode } from './stage-events';
import { commit, endGesture } from '@/state/editing';
import { stores } from '@/state/stores';

/** A stage that ends more often than this is not started again. */
const MOST_STARTS = 4;

/**
 * Keeps a stage in an element: opens it, feeds it, and opens another when its worker or the
 * graphics processor ends.
 * @param told of the stage there is, null while there is none; and why there is none and none will
 *   come
 * @returns what ends it
 */
export function keepStage(
  host: HTMLElement,
  evaluation: Evaluation,
  mode: StageMode | null,
  {
    onStage,
    onFailure,
  }: {
    readonly onStage: (stage: RemoteStage | null) => void;
    readonly onFailure: (message: string) => void;
  },
): () => void {
  let isClosed = false,
    starts = 0,
    leave = (): void => undefined;
  const open = async (): Promise<void> => {
    starts++;
    try {
      const stage = await RemoteStage.open(host, mode, {
        onCamera: (camera) => {
          stores.view.setState({ camera });
        },
        onBeacon,
        onProblem: (problem) => {
          stores.results.setState({ problem });
        },
        onLost: () => {
          again();
        },
      });
      if (isClosed) {
        stage.close();
        return;
      }
      const detach = evaluation.attach(stage);
      leave = () => {
        detach();
        stage.close();
        onStage(null);
        leave = () => undefined;
      };
      onStage(stage);
    } catch (error) {
      if (isLost(error)) again();
      else if (!isClosed) onFailure(problemText(describeError(error)));
    }
  };
  const again = (): void => {
    leave();
    if (isClosed) return;
    if (starts < MOST_STARTS) {
      toast(
        'The 3D view ended, perhaps for want of memory. It was started again; your work is kept.',
      );
      void open();
    } else
      onFailure(
        'The 3D view ended several times, perhaps for want of memory. Your work is kept. ' +
          'Close other pages or take a smaller model, then reload the page.',
      );
  };
  void open();
  return () => {
    isClosed = true;
    leave();
  };
}

const onBeacon: Parameters<typeof RemoteStage.open>[2]['onBeacon'] = (id, to) => {
  const { model } = stores.stage.getState();
  if (id === null || !model) endGesture();
  else
    commit(
      'Moved a beacon',
      (document, board) => moveBeacon(document, board, id, to, model.scale),
      `beacon ${id}`,
    );
};
