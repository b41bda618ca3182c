import { structureKey } from '../compile/structure';
import type { NetworkDocument } from '../graph/document';
import type { MeshAnalysis } from '../mesh/analysis';
import { framingCamera, seePoints } from './camera';
import type { Camera, VisiblePoints } from './camera';
import { sceneLighting } from './lighting';
import { halve, paintSurface } from './picture';
import type { Picture } from './picture';
import { EvaluationSession } from './session';
import type { MapSource } from './session';

/** So many programs are kept: a state, another, and what is tried between them. */
const PROGRAMS = 3;

/** A model that materials are painted on. */
export interface PaintedModel {
  readonly analysis: MeshAnalysis;
  readonly maps: MapSource;
}

/**
 * Paints finished materials on one model from one camera, for comparison: the points are looked up
 * once, and states that differ by values alone share a program.
 */
export class MaterialPainter {
  private readonly seen: VisiblePoints;
  private readonly sessions = new Map<string, EvaluationSession>();

  /** @param size of a picture, pixels a side; evaluated at twice that and averaged */
  constructor(
    private readonly model: PaintedModel,
    size: number,
    camera?: Camera,
  ) {
    const { mesh } = model.analysis;
    const from = camera ?? framingCamera(mesh.centre, mesh.size);
    this.seen = seePoints(model.analysis, from, size * 2, size * 2);
  }

  /** @throws CompileError when the document has errors */
  paint(document: NetworkDocument): Picture {
    const { analysis, maps } = this.model;
    const lanes = this.sessionFor(document).evaluate(
      document,
      analysis.mesh,
      this.seen.points,
      maps,
    );
    const lighting = sceneLighting(document, analysis, this.seen.points);
    return halve(paintSurface(this.seen, lanes, lighting));
  }

  private sessionFor(document: NetworkDocument): EvaluationSession {
    const key = structureKey(document);
    const known = this.sessions.get(key);
    if (known) return known;
    const made = new EvaluationSession({
      surface: true,
      taps: [],
      antialias: ['images', 'steps'],
    });
    this.sessions.set(key, made);
    const [oldest] = this.sessions.keys();
    if (this.sessions.size > PROGRAMS && oldest !== undefined) this.sessions.delete(oldest);
    return made;
  }
}
