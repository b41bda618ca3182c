import type { ResultKey } from '../base/ids';
import type { Standing } from '../compile/model-scale';
import type { NetworkDocument } from '../graph/document';
import { SURFACE_LANES } from '../nodes/surface-parameters';
import { appearanceOf } from '../surface/stage-layout';
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
  standing: Standing,
): Survey {
  const { mesh } = model;
  const session = new EvaluationSession({
    surface: true,
    taps: pin === null ? [] : [pin],
    evensOut: ['images'],
  });
  const lanes = session.evaluate(document, mesh, model.uniform, model.maps, { standing });
  return {
    demands: withNested(session.demands(document, mesh, standing), mesh),
    appearance: appearanceOf(lanes.slice(0, SURFACE_LANES.length)),
  };
}
