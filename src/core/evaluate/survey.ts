import type { ResultKey } from '../base/ids';
import type { CompanionFrame } from '../compile/model-scale';
import type { NetworkDocument } from '../graph/document';
import { SURFACE_LANES } from '../nodes/surface-parameters';
import { computeAppearance } from '../surface/stage-layout';
import type { Appearance } from '../surface/stage-layout';
import type { LoadedModel } from './loaded-model';
import { EvaluationSession, withNested } from './session';
import type { NestedDemand } from './session';

/** What a network needs on a model beside the current one. */
export interface Survey {
  readonly demands: readonly NestedDemand[];
  readonly appearance: Appearance;
}

/** @throws CompileError with all findings when the document has errors */
export function surveyModel(
  model: LoadedModel,
  document: NetworkDocument,
  pin: ResultKey | null,
  frame: CompanionFrame,
): Survey {
  const { mesh } = model;
  const session = new EvaluationSession({
    surface: true,
    taps: pin === null ? [] : [pin],
    antialias: ['images'],
  });
  const lanes = session.evaluate(document, mesh, model.uniform, model.maps, { frame });
  return {
    demands: withNested(session.demands(document, mesh, frame), mesh),
    appearance: computeAppearance(lanes.slice(0, SURFACE_LANES.length)),
  };
}
