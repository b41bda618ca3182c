import type { ResultKey } from '../core/base/ids';
import type { SeenValues } from '../core/evaluate/level-line';
import type { Picked } from '../core/evaluate/pick';
import type { ExplainedPoints, PointedRay } from '../core/evaluate/point-explainer';
import type { Triple } from '../core/graph/document';
import { unwrap } from '../workers/answer';
import type { EditorParts } from './editor-parts';
import type { ShownModel } from './stage-model-controller';

/** Questions about what is seen of the model on the stage, answered by the evaluator. */
export class StageQuestions {
  constructor(
    private readonly parts: EditorParts,
    private readonly shown: () => ShownModel | null,
  ) {}

  /** The model shown and the document, brought to the evaluator; null while nothing is shown. */
  private brought() {
    const { document } = this.parts.stores.document.getState();
    const shown = this.shown();
    if (!shown) return null;
    const { evaluator, documents } = this.parts.pool;
    return { document, evaluator, id: shown.id, named: documents.bring(evaluator, document) };
  }

  /** What a ray from the eye meets on the model; null for nothing. @throws WorkerProblem */
  async pick(from: Triple, towards: Triple): Promise<Picked | null> {
    const { pin, picking } = this.parts.stores.view.getState();
    const at = this.brought();
    const read = picking?.reads ?? pin;
    return at && unwrap(at.evaluator.pick(at.id, at.named, read, from, towards));
  }

  /** What makes the points that rays meet; null where none meets it. @throws WorkerProblem */
  async explain(rays: readonly PointedRay[]): Promise<ExplainedPoints | null> {
    const at = this.brought();
    return at && unwrap(at.evaluator.explain(at.id, at.named, rays));
  }

  /**
   * A result as the camera of the stage sees it on the current model; null while nothing is shown.
   * @throws WorkerProblem
   */
  async seeValues(key: ResultKey, width: number): Promise<SeenValues | null> {
    const { camera } = this.parts.stores.view.getState();
    const at = camera && this.brought();
    return at && unwrap(at.evaluator.seeValues(at.id, at.named, key, camera, width));
  }
}
