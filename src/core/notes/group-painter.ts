import type { NodeId } from '../base/ids';
import { comparePictures } from '../compare/picture-difference';
import { findGroupDefinition } from '../compile/catalogue';
import { findNode } from '../compile/uniforms';
import { boardAt } from '../edit/board';
import { setDials } from '../edit/variants';
import type { DialValues } from '../edit/variants';
import { outputKey } from '../graph/result-key';
import type { GroupDefinition, GroupPort, NetworkDocument, NodeInstance } from '../graph/document';
import type { MeshAnalysis } from '../mesh/analysis';
import type { Camera, VisiblePoints } from '../evaluate/camera';
import { sceneLighting } from '../evaluate/lighting';
import { halve, paintSurface, paintValues } from '../evaluate/picture';
import type { Picture } from '../evaluate/picture';
import type { ProofModel } from '../evaluate/proof';
import { EvaluationSession } from '../evaluate/session';
import { Sights } from '../evaluate/sights';

/** A picture with the share of its covered pixels that differ from those of another. */
export interface SharedPicture {
  readonly picture: Picture;
  /** 0 where it is the same, 1 where every pixel differs. */
  readonly share: number;
  /** The name of the output it shows. */
  readonly output: string;
}

/** The share of covered pixels that differ by more than one step of 255 in any channel. */
export const pictureShare = (a: Picture, b: Picture): number => comparePictures(a, b).share;

/** What of a group is shown in one picture: its surface, else a colour, else the first output. */
export const shownOutput = (outputs: readonly GroupPort[]): GroupPort | undefined =>
  outputs.find(({ kind }) => kind === 'surface') ??
  outputs.find(({ kind }) => kind === 'colour') ??
  outputs[0];

/** What goes out of a group at a setting, as a camera sees it: per output its lanes. */
interface Sight {
  readonly document: NetworkDocument;
  readonly seen: VisiblePoints;
  readonly outputs: readonly (readonly Float32Array[])[];
}

/** A group's card, the model it is looked at on, and how. */
export interface PaintedGroup {
  readonly document: NetworkDocument;
  /** The nodes that lead to the card, it included. */
  readonly path: readonly NodeId[];
  readonly model: ProofModel;
  /** Of a picture, pixels a side; evaluated at twice that and averaged. */
  readonly size: number;
  /** The whole model, where left out. */
  readonly camera?: Camera | undefined;
}

/**
 * Paints what goes out of a group at any setting of its dials. Compiles once while only values that
 * flow change; what is seen of a model is looked up once.
 */
export class GroupPainter {
  private readonly sights = new Sights();
  private session: EvaluationSession | null = null;
  private key = '';

  /**
   * A picture of each setting, with what differs from the group at home. Of several outputs, the
   * one that the settings change most is shown.
   * @throws CompileError when the document has errors
   */
  paintAll(painted: PaintedGroup, settings: readonly DialValues[]): readonly SharedPicture[] {
    const node = findNode(painted.document, painted.path);
    const group = node && findGroupDefinition(painted.document, node);
    const usual = shownOutput(group?.outputs ?? []);
    if (!node || !group || !usual) return [];
    const home = this.look(painted, group, node, {});
    const looks = settings.map((values) =>
      Object.keys(values).length === 0 ? home : this.look(painted, group, node, values),
    );
    const moved = group.outputs.map((_, o) =>
      looks.reduce((sum, look) => sum + differing(look.outputs[o], home.outputs[o]), 0),
    );
    const most = Math.max(...moved);
    const place = most > 0 ? moved.indexOf(most) : group.outputs.indexOf(usual);
    const output = group.outputs[place] ?? usual;
    const paint = (look: Sight): Picture =>
      drawLanes(look, look.outputs[place] ?? [], output.kind, painted.model.analysis);
    const homePicture = paint(home);
    return looks.map((look) => {
      const picture = look === home ? homePicture : paint(look);
      const share = look === home ? 0 : pictureShare(homePicture, picture);
      return { picture, share, output: output.name };
    });
  }

  private look(
    { document, path, model, size, camera }: PaintedGroup,
    { outputs }: GroupDefinition,
    { id }: NodeInstance,
    values: DialValues,
  ): Sight {
    const set = setDials(document, boardAt(document, path.slice(0, -1)), id, values);
    const seen = this.sights.see(model.analysis, size * 2, camera);
    const keys = outputs.map((each) => outputKey([...path], each.id));
    const session = this.sessionFor(keys);
    const lanes = session.evaluate(set, model.analysis.mesh, seen.points, model.maps);
    const { slots } = session.prepare(set);
    const made = keys.map((key) => {
      const slot = slots.find((each) => each.key === key);
      return slot ? lanes.slice(slot.first, slot.first + slot.lanes) : [];
    });
    return { document: set, seen, outputs: made };
  }

  private sessionFor(keys: readonly string[]): EvaluationSession {
    const key = keys.join('\n');
    if (!this.session || this.key !== key) {
      this.session = new EvaluationSession({
        surface: false,
        taps: keys,
        antialias: ['images', 'steps'],
      });
      this.key = key;
    }
    return this.session;
  }
}

type Lanes = readonly Float32Array[];
/** How many points of two sights differ. */
function differing(a: Lanes = [], b: Lanes = []): number {
  let count = 0;
  const points = a[0]?.length ?? 0;
  for (let k = 0; k < points; k++)
    if (a.some((lane, l) => Math.abs((lane[k] ?? 0) - (b[l]?.[k] ?? 0)) > 1 / 255)) count++;
  return count;
}

function drawLanes(
  { document, seen }: Sight,
  lanes: Lanes,
  kind: GroupPort['kind'],
  analysis: MeshAnalysis,
): Picture {
  return halve(
    kind === 'surface'
      ? paintSurface(seen, lanes, sceneLighting(document, analysis, seen.points))
      : paintValues(seen, lanes, kind === 'colour'),
  );
}
