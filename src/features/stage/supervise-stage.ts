import { toast } from 'sonner';
import { moveBeacon } from '@/core/edit/beacons';
import { changeLight } from '@/core/edit/lights';
import { describeError, problemText } from '@/core/base/problem';
import { isLost } from '@/workers/answer';
import type { Evaluation } from '@/state/evaluation';
import { RemoteStage } from './remote-stage';
import type { StageWishes } from './stage-events';
import { commit, endGesture } from '@/state/editing';
import { stores } from '@/state/stores';

/** A stage that ends more often than this is not started again. */
const MOST_STARTS = 4;

interface SupervisorListener {
  /** The stage there is; null while there is none. */
  readonly onStage: (stage: RemoteStage | null) => void;
  /** Why there is none, and none will come. */
  readonly onFailure: (message: string) => void;
}

/**
 * Supervises a stage in an element: opens it, feeds it, and opens another when its worker or the
 * graphics processor ends.
 */
class StageSupervisor {
  private isClosed = false;
  private starts = 0;
  private hasSaid = false;
  private detach: (() => void) | null = null;

  constructor(
    private readonly host: HTMLElement,
    private readonly evaluation: Evaluation,
    private readonly wishes: StageWishes,
    private readonly listener: SupervisorListener,
  ) {}

  async open(): Promise<void> {
    this.starts++;
    try {
      const stage = await RemoteStage.open(this.host, this.wishes, {
        onCamera: (camera) => {
          stores.view.setState({ camera });
        },
        onBeacon,
        onLight,
        onProblem: (problem) => {
          stores.results.setState({ problem });
        },
        onLost: () => {
          this.restart();
        },
        onRefused: (reason) => {
          this.sayOnce(`The graphics driver does not take the program of this network. ${reason}`);
        },
      });
      if (this.isClosed) stage.close();
      else this.adopt(stage);
    } catch (error) {
      if (isLost(error)) this.restart();
      else if (!this.isClosed) this.listener.onFailure(problemText(describeError(error)));
    }
  }

  private adopt(stage: RemoteStage): void {
    if (stage.isShort) this.sayOnce('The graphics processor can write too few values at once.');
    const leave = this.evaluation.attach(stage);
    this.detach = () => {
      leave();
      stage.close();
      this.listener.onStage(null);
      this.detach = null;
    };
    this.listener.onStage(stage);
  }

  private sayOnce(reason: string): void {
    if (this.hasSaid) return;
    this.hasSaid = true;
    toast(`${reason} The workers compute the picture instead; nothing is lost.`, {
      duration: 12_000,
    });
  }

  private restart(): void {
    this.detach?.();
    if (this.isClosed) return;
    if (this.starts < MOST_STARTS) {
      toast('The 3D view ended, perhaps for lack of memory. It was restarted; your work is kept.');
      void this.open();
    } else
      this.listener.onFailure(
        'The 3D view ended several times, perhaps for lack of memory. Your work is kept. ' +
          'Close other pages or take a smaller model, then reload the page.',
      );
  }

  close(): void {
    this.isClosed = true;
    this.detach?.();
  }
}

/** Supervises a stage in an element. @returns what ends it */
export function superviseStage(
  host: HTMLElement,
  evaluation: Evaluation,
  wishes: StageWishes,
  listener: SupervisorListener,
): () => void {
  const supervisor = new StageSupervisor(host, evaluation, wishes, listener);
  void supervisor.open();
  return () => {
    supervisor.close();
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

const onLight: Parameters<typeof RemoteStage.open>[2]['onLight'] = (id, at) => {
  if (id === null) endGesture();
  else
    commit('Moved a light', (document) => changeLight(document, id, { at }), `light ${id} handle`);
};
