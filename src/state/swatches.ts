import type { StageModelController } from './stage-model-controller';
import type { Camera } from '../core/evaluate/camera';
import type { ModelId, ResultKey } from '../core/base/ids';
import { reconcileTaps } from './reconcile-taps';
import type { StageImages } from './images';
import type { EditorParts } from './editor-parts';
import { boardAt } from './board-path';
import { isLost, unwrap } from '../workers/answer';
import { outputKey } from '../core/graph/result-key';
import type { NetworkDocument } from '../core/graph/document';
import { watchedKeys } from '../core/evaluate/advice';
import { getNetwork } from '../core/edit/board';
import { describePorts } from '../core/compile/catalogue';
import { describeError } from '../core/base/problem';

/** The model whose swatches are wanted, and what is done with what comes of them. */
export interface SwatchTarget {
  readonly shown: () => Shown | null;
  readonly onResult: (shown: Shown, result: EvaluateResult) => void;
}
type Shown = NonNullable<StageModelController['shown']>;
type EvaluateResult = Awaited<ReturnType<typeof evaluateBoard>>;

/**
 * The first output of every node of a board, and the values arriving at ramps: what the cards and
 * histograms show.
 */
export function boardTaps(
  document: NetworkDocument,
  path: readonly string[],
): readonly ResultKey[] {
  const network = getNetwork(document, boardAt(document, path));
  return network.nodes.flatMap((node) => {
    const output = describePorts(document, node)?.outputs[0];
    const arriving = watchedKeys({ document, network, path, node });
    return output ? [outputKey([...path, node.id], output.id), ...arriving] : arriving;
  });
}

/** Side of a swatch, pixels. */
const SWATCH = 96;

function evaluateBoard({ pool, stores }: EditorParts, model: ModelId, camera: Camera) {
  const { document } = stores.document.getState();
  const { path } = stores.view.getState();
  return unwrap(
    pool.evaluator.evaluate({
      model,
      document,
      taps: boardTaps(document, path),
      camera: { ...camera, aspect: 1 },
      size: SWATCH,
    }),
  );
}

/** Keeps the swatches of the open board up to date; one round at a time, always of the newest. */
export class SwatchRequests {
  isBusy = false;
  /** Counters for tests and benchmarks. */
  readonly counts = { evaluations: 0, compilations: 0 };
  private again = false;

  constructor(
    private readonly parts: EditorParts,
    private readonly images: StageImages,
    private readonly target: SwatchTarget,
  ) {}

  request(): void {
    if (this.isBusy) this.again = true;
    else void this.evaluateLatest();
  }

  private async evaluateLatest(): Promise<void> {
    this.isBusy = true;
    try {
      do {
        this.again = false;
        await this.evaluateOnce();
      } while (this.again);
    } finally {
      this.isBusy = false;
    }
  }

  private async evaluateOnce(): Promise<void> {
    const { stores } = this.parts;
    this.images.request(stores.document.getState().document);
    const shown = this.target.shown();
    const { camera } = stores.view.getState();
    if (!shown || !camera) return;
    try {
      const result = await evaluateBoard(this.parts, shown.id, camera);
      this.counts.evaluations++;
      this.counts.compilations = result.compilations;
      stores.results.setState({
        taps: reconcileTaps(stores.results.getState().taps, result.taps),
        kinds: result.kinds,
        appearance: result.appearance,
        readings: new Map(result.readings),
        problem: null,
      });
      this.target.onResult(shown, result);
    } catch (error) {
      // The new worker is asked as soon as it has the model.
      if (!isLost(error)) stores.results.setState({ problem: describeError(error) });
    }
  }
}
