import type { NodeId } from '../base/ids';
import { findGroupDefinition } from '../compile/catalogue';
import { findNode } from '../compile/uniforms';
import { boardAt } from '../edit/board';
import { setDials } from '../edit/variants';
import type { DialValues } from '../edit/variants';
import { outputKey } from '../graph/result-key';
import type { GroupPort, NetworkDocument } from '../graph/document';
import type { MeshAnalysis } from '../mesh/analysis';
import { framingCamera, seePoints } from './camera';
import type { Camera, VisiblePoints } from './camera';
import { sceneLighting } from './lighting';
import { halve, paintSurface, paintValues } from './picture';
import type { Picture } from './picture';
import type { ProofModel } from './proof';
import { EvaluationSession } from './session';

/** A picture with the share of its covered pixels that differ from those of another. */
export interface SharedPicture {
  readonly picture: Picture;
  /** 0 where it is the same, 1 where every pixel differs. */
  readonly share: number;
}

/** How far two channels must be apart to count, of 255. */
const SEEN = 1;

/** The share of covered pixels that differ by more than one step of 255 in any channel. */
export function pictureShare(a: Picture, b: Picture): number {
  let [covered, differ] = [0, 0];
  for (let k = 0; k < a.pixels.length; k += 4) {
    if (a.pixels[k + 3] === 0 && b.pixels[k + 3] === 0) continue;
    covered++;
    for (let c = 0; c < 4; c++)
      if (Math.abs((a.pixels[k + c] ?? 0) - (b.pixels[k + c] ?? 0)) > SEEN) {
        differ++;
        break;
      }
  }
  return covered > 0 ? differ / covered : 0;
}

/** What of a group is shown in one picture: its surface, else a colour, else the first output. */
export const shownOutput = (outputs: readonly GroupPort[]): GroupPort | undefined =>
  outputs.find(({ kind }) => kind === 'surface') ??
  outputs.find(({ kind }) => kind === 'colour') ??
  outputs[0];

/** From so many sides, what is seen of a model is kept. */
const SIGHTS = 2;

/**
 * Paints what goes out of a group at any setting of its dials. Compiles once while only values that
 * flow change; what is seen of a model is looked up once.
 */
export class GroupPainter {
  private readonly sights = new WeakMap<MeshAnalysis, Map<string, VisiblePoints>>();
  private session: EvaluationSession | null = null;
  private key = '';

  /**
   * @param path the nodes that lead to the group's card, it included
   * @param size of the picture, pixels a side; evaluated at twice that and averaged
   * @throws CompileError when the document has errors
   */
  paint(
    document: NetworkDocument,
    path: readonly NodeId[],
    values: DialValues,
    model: ProofModel,
    size: number,
    camera?: Camera,
  ): Picture {
    const node = findNode(document, path);
    const group = node && findGroupDefinition(document, node);
    const output = shownOutput(group?.outputs ?? []);
    if (!node || !output) return { width: 1, height: 1, pixels: new Uint8ClampedArray(4) };
    const set = setDials(document, boardAt(document, path.slice(0, -1)), node.id, values);
    const seen = this.see(model, size * 2, camera);
    const session = this.sessionFor(outputKey([...path], output.id));
    const lanes = session.evaluate(set, model.analysis.mesh, seen.points, model.maps);
    const kind = session.prepare(set).slots[0]?.kind;
    return halve(
      kind === 'surface'
        ? paintSurface(seen, lanes, sceneLighting(set, model.analysis, seen.points))
        : paintValues(seen, lanes, kind === 'colour'),
    );
  }

  /** A picture of each setting, with what differs from the group at home. */
  paintAll(
    document: NetworkDocument,
    path: readonly NodeId[],
    settings: readonly DialValues[],
    model: ProofModel,
    size: number,
    camera?: Camera,
  ): readonly SharedPicture[] {
    const home = this.paint(document, path, {}, model, size, camera);
    return settings.map((values) => {
      const isHome = Object.keys(values).length === 0;
      const picture = isHome ? home : this.paint(document, path, values, model, size, camera);
      return { picture, share: isHome ? 0 : pictureShare(home, picture) };
    });
  }

  private sessionFor(key: string): EvaluationSession {
    if (!this.session || this.key !== key) {
      this.session = new EvaluationSession({
        surface: false,
        taps: [key],
        antialias: ['images', 'steps'],
      });
      this.key = key;
    }
    return this.session;
  }

  private see({ analysis }: ProofModel, size: number, camera?: Camera): VisiblePoints {
    const { mesh } = analysis;
    const from = camera ?? framingCamera(mesh.centre, mesh.size);
    const key = JSON.stringify([from, size]);
    const sights = this.sights.get(analysis) ?? new Map<string, VisiblePoints>();
    this.sights.set(analysis, sights);
    const known = sights.get(key);
    if (known) return known;
    const made = seePoints(analysis, from, size, size);
    sights.set(key, made);
    const [oldest] = sights.keys();
    if (sights.size > SIGHTS && oldest !== undefined) sights.delete(oldest);
    return made;
  }
}
