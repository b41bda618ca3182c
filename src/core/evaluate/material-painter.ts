import { structureKey } from '../compile/structure';
import type { NetworkDocument } from '../graph/document';
import type { MeshAnalysis } from '../mesh/analysis';
import type { Camera, VisiblePoints } from './camera';
import { sceneLighting } from './lighting';
import { halve, paintSurface } from './picture';
import type { Picture } from './picture';
import { EvaluationSession } from './session';
import type { MapSource } from './session';
import { Sights } from './sights';

/**
 * So many programs are kept in a thread: a state, another, and what is tried between them. Many
 * materials are of one structure.
 */
const PROGRAMS = 6;
const programs = new Map<string, EvaluationSession>();
const sights = new Sights();

/** A model that materials are painted on. */
export interface PaintedModel {
  readonly analysis: MeshAnalysis;
  readonly maps: MapSource;
}

/**
 * Paints finished materials on one model from one camera, for comparison: the points are looked up
 * once, and states that differ by values alone share a program, of whichever material.
 */
export class MaterialPainter {
  private readonly seen: VisiblePoints;

  /** @param size of a picture, pixels a side; evaluated at twice that and averaged */
  constructor(
    private readonly model: PaintedModel,
    size: number,
    camera?: Camera,
  ) {
    this.seen = sights.see(model.analysis, size * 2, camera);
  }

  /** @throws CompileError when the document has errors */
  paint(document: NetworkDocument): Picture {
    const { analysis, maps } = this.model;
    const lanes = programFor(document).evaluate(document, analysis.mesh, this.seen.points, maps);
    const lighting = sceneLighting(document, analysis, this.seen.points);
    return halve(paintSurface(this.seen, lanes, lighting));
  }
}

function programFor(document: NetworkDocument): EvaluationSession {
  const key = structureKey(document);
  const known = programs.get(key);
  const session =
    known ?? new EvaluationSession({ surface: true, taps: [], antialias: ['images', 'steps'] });
  // What was used last is dropped last.
  programs.delete(key);
  programs.set(key, session);
  const [oldest] = programs.keys();
  if (programs.size > PROGRAMS && oldest !== undefined) programs.delete(oldest);
  return session;
}
