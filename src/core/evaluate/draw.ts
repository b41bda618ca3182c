import type { NetworkDocument } from '../graph/document';
import type { MeshAnalysis } from '../mesh/analysis';
import type { VisiblePoints } from './camera';
import { sceneLighting } from './lighting';
import { halve, paintSurface, paintValues } from './picture';
import type { Picture } from './picture';
import { EvaluationSession } from './session';
import type { MapSource } from './session';

/**
 * A picture of one output, `path:output`, or of the finished surface, 'surface', half the size of
 * the grid it is seen through: anti-aliased.
 * @throws CompileError when the document has errors
 */
export function drawOutput(
  document: NetworkDocument,
  key: string,
  analysis: MeshAnalysis,
  seen: VisiblePoints,
  maps: MapSource,
): Picture {
  const session = new EvaluationSession({
    surface: key === 'surface',
    taps: key === 'surface' ? [] : [key],
    antialias: ['images', 'steps'],
  });
  const lanes = session.evaluate(document, analysis.mesh, seen.points, maps);
  const kind = session.prepare(document).slots[0]?.kind;
  return halve(
    kind === 'surface'
      ? paintSurface(seen, lanes, sceneLighting(document, analysis, seen.points))
      : paintValues(seen, lanes, kind === 'colour'),
  );
}
