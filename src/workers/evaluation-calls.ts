import type { ModelId, NodeId, ResultKey } from '../core/base/ids';
import { inspectDocument } from '../core/advice/open-ends';
import type { CompanionFrame } from '../core/compile/model-scale';
import { seePoints } from '../core/evaluate/camera';
import type { Camera } from '../core/evaluate/camera';
import { drawOutput } from '../core/evaluate/draw';
import { FigureReader } from '../core/evaluate/figures';
import { StageFiller } from '../core/evaluate/fill';
import type { FillRequest } from '../core/evaluate/fill';
import { surfaceShares } from '../core/evaluate/layer-stack';
import { seeValues } from '../core/evaluate/level-line';
import { pickPoint } from '../core/evaluate/pick';
import { PointExplainer } from '../core/evaluate/point-explainer';
import type { PointedRay } from '../core/evaluate/point-explainer';
import { measureDial } from '../core/notes/dial-measures';
import { measurePairs, measureUnplugging, rankInfluence } from '../core/notes/group-measures';
import { GroupTrial } from '../core/notes/group-trial';
import { InfluenceFinder } from '../core/evaluate/influence';
import type { InfluencePlace } from '../core/evaluate/influence';
import { GroupPainter } from '../core/notes/group-painter';
import { outputGlsl } from '../core/evaluate/output-glsl';
import { proveGroup } from '../core/evaluate/proof';
import type { ProofModel } from '../core/evaluate/proof';
import { RayReader } from '../core/evaluate/ray-values';
import { getModelScale } from '../core/evaluate/map-demands';
import { makeStageProgram } from '../core/evaluate/stage-program';
import { surveyModel } from '../core/evaluate/survey';
import { TransferMeter } from '../core/evaluate/transfer';
import { TapEvaluator } from '../core/evaluate/tap-results';
import type { EvaluationRequest } from '../core/evaluate/tap-results';
import type { DialValues } from '../core/edit/variants';
import type { BoardId, NetworkDocument, Triple } from '../core/graph/document';
import { PLAIN_TARGETS } from '../core/surface/stage-layout';
import { attempt } from './answer';
import { sent } from './desk';
import type { Desk } from './desk';
import { HeldDocuments } from './held-documents';
import type { DocumentNews, DocumentReference, OnDocument } from './held-documents';
import { textureCalls } from './texture-calls';

/** A request about a document that the worker may hold. */
type About<Request extends { readonly document: NetworkDocument }> = Omit<Request, 'document'> & {
  readonly document: DocumentReference;
};

/** Does something now, and gives or throws what came of it whenever it is asked for. */
function settle<T>(work: () => T): () => T {
  try {
    const value = work();
    return () => value;
  } catch (error) {
    return () => {
      throw error;
    };
  }
}

/** All calls about the open document, which the worker holds. */
export function documentCalls(desk: Desk) {
  const held = new HeldDocuments();
  // What is named is looked up at once: by the time the models are here, another may be newest.
  const about: OnDocument = (named, work) => {
    const document = settle(() => held.get(named));
    return desk.answer(() => work(document()));
  };
  return {
    ...stageCalls(desk, held, about),
    ...figureCalls(desk, about),
    ...groupCalls(desk, about),
    ...textureCalls(desk, about),
  };
}

/** Calls for what is shown on the stage, on the cards and in the bench. */
function stageCalls({ models, answer }: Desk, held: HeldDocuments, about: OnDocument) {
  const taps = new TapEvaluator();
  const filler = new StageFiller();
  return {
    /** Holds a document under a number, for the calls that come after. */
    holdDocument: (number: number, news: DocumentNews) =>
      attempt(() => {
        held.hold(number, news);
        return true;
      }),
    /** All findings of a document, those that only show when it is compiled included. */
    check: (named: DocumentReference) => about(named, inspectDocument),
    evaluate: (request: About<EvaluationRequest>) =>
      about(request.document, (document) =>
        taps.evaluate(models.get(request.model), { ...request, document }),
      ),
    prepareStage: (named: DocumentReference, pin: ResultKey | null, targets = PLAIN_TARGETS) =>
      about(named, (document) => makeStageProgram(document, pin, targets)),
    fill: (request: About<FillRequest>) =>
      about(request.document, (document) => {
        const filled = filler.fill(models.get(request.model), { ...request, document });
        return sent(filled, ...filled.lanes.map((lane) => lane.buffer));
      }),
    /** A model left the stage: what was cached for it may go. */
    leave: (subject: string) => answer(() => filler.leave(subject)),
    /** A result as a camera sees it. */
    seeValues: (
      id: ModelId,
      named: DocumentReference,
      key: ResultKey,
      camera: Camera,
      width: number,
    ) =>
      about(named, (document) => {
        const seen = seeValues(models.get(id), document, key, camera, width);
        return sent(seen, ...seen.lanes.map((lane) => lane.buffer));
      }),
    /** How much of each surface is seen at the end of a board, through all layers. */
    surfaceShares: (
      id: ModelId,
      named: DocumentReference,
      board: BoardId,
      path: readonly string[],
    ) => about(named, (document) => surfaceShares(models.get(id), document, board, path)),
    pick: (
      id: ModelId,
      named: DocumentReference,
      pin: ResultKey | null,
      from: Triple,
      towards: Triple,
    ) => about(named, (document) => pickPoint(models.get(id), document, pin, from, towards)),
  };
}

/** Calls for numbers, plots, and what makes them. */
function figureCalls({ models }: Desk, about: OnDocument) {
  const figures = new FigureReader();
  const transfer = new TransferMeter();
  const reader = new RayReader();
  const explainer = new PointExplainer();
  return {
    /** What makes the points that rays meet. */
    explain: (id: ModelId, named: DocumentReference, rays: readonly PointedRay[]) =>
      about(named, (document) => explainer.explain(models.get(id), document, rays)),
    /** What would change most at the point that a ray meets. */
    strongest: (id: ModelId, named: DocumentReference, ray: PointedRay) =>
      about(named, (document) => explainer.strongest(models.get(id), document, ray)),
    /** What each branch contributes there. */
    explainShares: (id: ModelId, named: DocumentReference, rays: readonly PointedRay[]) =>
      about(named, (document) => explainer.shares(models.get(id), document, rays)),
    /** Figures and histograms of outputs, channel by channel. */
    figures: (id: ModelId, named: DocumentReference, keys: readonly ResultKey[]) =>
      about(named, (document) => figures.describe(models.get(id), document, keys)),
    /** The lanes of a result, or the normal, where rays meet the model. */
    rayValues: (
      id: ModelId,
      named: DocumentReference,
      key: ResultKey | null,
      rays: readonly PointedRay[],
    ) => about(named, (document) => reader.read(models.get(id), document, key, rays)),
    /** An output as a function of GLSL; null where there is none. */
    glsl: (id: ModelId, named: DocumentReference, key: ResultKey) =>
      about(named, (document) => outputGlsl(document, key, getModelScale(models.get(id).mesh))),
    /** How an output depends on another of its board; null where it does not. */
    transfer: (id: ModelId, named: DocumentReference, from: ResultKey, to: ResultKey) =>
      about(named, (document) => transfer.measure(models.get(id), document, from, to)),
  };
}

/** Models by name, with what is measured on them as it is asked for. */
const namedModels = (models: Desk['models'], ids: readonly ModelId[]): readonly ProofModel[] =>
  ids.map((id) => {
    const { analysis, measured, mesh } = models.get(id);
    return { name: mesh.name, analysis, maps: measured };
  });

/** A group's card in a document that the worker may hold, and the models it is tried on. */
interface GroupRequest {
  readonly document: DocumentReference;
  /** The nodes that lead to the card, it included. */
  readonly path: readonly NodeId[];
  readonly models: readonly ModelId[];
}
/** Pictures of a group at settings of its dials. */
export interface PaintRequest extends Omit<GroupRequest, 'models'> {
  readonly model: ModelId;
  readonly settings: readonly DialValues[];
  /** Pixels a side. */
  readonly size: number;
  /** The whole model, where left out. */
  readonly camera?: Camera;
}

/** Where a value, as a camera sees the model, changes what is shown. */
export interface InfluenceRequest {
  readonly document: DocumentReference;
  readonly model: ModelId;
  readonly place: InfluencePlace;
  /** What is shown; null for the finished surface. */
  readonly pin: ResultKey | null;
  readonly camera: Camera;
  /** Of the grid, pixels. */
  readonly width: number;
  /** The derivative alone, which is soon there. */
  readonly isQuick: boolean;
}

/** Calls about a group as it stands on its board. */
function groupCalls({ models }: Desk, about: OnDocument) {
  const painter = new GroupPainter();
  const finder = new InfluenceFinder();
  let last: { readonly key: string; readonly trial: GroupTrial } | null = null;
  // One group is tried many times in a row: it is compiled once.
  const on = <T>({ document, path, models: ids }: GroupRequest, work: (trial: GroupTrial) => T) =>
    about(document, (found) => {
      const key = JSON.stringify([path, ids]);
      if (last?.key !== key || last.trial.document !== found)
        last = {
          key,
          trial: new GroupTrial({ document: found, path, models: namedModels(models, ids) }),
        };
      return work(last.trial);
    });
  return {
    /** What is found of one dial of a group by trying it over its slider. */
    measureDial: (tried: GroupRequest, dial: string) =>
      on(tried, (trial) => measureDial(trial, dial)),
    /** What is found of two dials at their ends together. */
    measurePairs: (tried: GroupRequest) => on(tried, measurePairs),
    /** What is found when each input is unplugged in turn. */
    measureUnplugging: (tried: GroupRequest) => on(tried, measureUnplugging),
    /** The values inside a group that are no dials, those of most influence first. */
    rankInfluence: (tried: GroupRequest) => on(tried, rankInfluence),
    /** Where a value changes what is shown; null for one that cannot be set. */
    influence: ({ document, model, place, pin, camera, width, isQuick }: InfluenceRequest) =>
      about(document, (found) => {
        const made = finder.find(models.get(model), found, place, pin, camera, width, isQuick);
        return made && sent(made, made.strength.buffer, made.reach.buffer);
      }),
    /** Pictures of a group at settings of its dials, each with its share that is not as at home. */
    paintGroup: ({ document, path, settings, model, size, camera }: PaintRequest) =>
      about(document, (found) => {
        const [painted] = namedModels(models, [model]);
        if (!painted) return [];
        return painter.paintAll({ document: found, path, model: painted, size, camera }, settings);
      }),
  };
}

/** Calls about documents that come along with them. */
export const evaluationCalls = ({ models, answer }: Desk) => ({
  survey: (id: ModelId, document: NetworkDocument, pin: ResultKey | null, frame: CompanionFrame) =>
    answer(() => surveyModel(models.get(id), document, pin, frame)),
  /** One picture of one output; maps that nobody gave are measured here, coarsely. */
  picture: (id: ModelId, document: NetworkDocument, key: ResultKey, camera: Camera, size: number) =>
    answer(() => {
      const { analysis, measured } = models.get(id);
      const seen = seePoints(analysis, camera, size * 2, size * 2);
      return drawOutput(document, key, analysis, seen, measured);
    }),
  prove: (
    source: NetworkDocument,
    candidate: NetworkDocument,
    groupId: string,
    ids: readonly ModelId[],
  ) =>
    answer(() => {
      return proveGroup(source, candidate, groupId, namedModels(models, ids));
    }),
});
