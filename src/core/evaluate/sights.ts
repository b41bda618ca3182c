import type { MeshAnalysis } from '../mesh/analysis';
import { framingCamera, seePoints } from './camera';
import type { Camera, VisiblePoints } from './camera';

/** From so many sides, what is seen of a model is kept. */
const KEPT = 2;

/** What cameras see of models, looked up once for as long as the model is held. */
export class Sights {
  private readonly known = new WeakMap<MeshAnalysis, Map<string, VisiblePoints>>();

  /** @param size of the grid, pixels a side; @param camera frames the whole model if left out */
  see(analysis: MeshAnalysis, size: number, camera?: Camera): VisiblePoints {
    const { mesh } = analysis;
    const from = camera ?? framingCamera(mesh.centre, mesh.size);
    const key = JSON.stringify([from, size]);
    const sights = this.known.get(analysis) ?? new Map<string, VisiblePoints>();
    this.known.set(analysis, sights);
    const before = sights.get(key);
    if (before) return before;
    const made = seePoints(analysis, from, size, size);
    sights.set(key, made);
    const [oldest] = sights.keys();
    if (sights.size > KEPT && oldest !== undefined) sights.delete(oldest);
    return made;
  }
}
