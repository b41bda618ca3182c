import type { NodeId } from '../base/ids';
import { normalise } from '../base/vector';
import { findGroupDefinition } from '../compile/catalogue';
import { findNode } from '../compile/uniforms';
import { boardAt, getNetwork } from '../edit/board';
import { setValue } from '../edit/nodes';
import { disconnect } from '../edit/strands';
import { setDials } from '../edit/variants';
import type { DialValues } from '../edit/variants';
import type { BoardId, GroupDefinition, NetworkDocument } from '../graph/document';
import { outputKey } from '../graph/result-key';
import { uniformPoints } from '../mesh/sample-points';
import type { SamplePoints } from '../mesh/sample-points';
import { sampleSurface, shadePoint } from '../surface/shade';
import { displayColour } from '../surface/tone';
import { sceneLighting } from '../evaluate/lighting';
import type { ProofModel } from '../evaluate/proof';
import { EvaluationSession } from '../evaluate/session';

/** Points per model at which a group is tried. */
const POINTS = 1024;
/** Of a surface every so many-th point is lit. */
const EVERY = 4;
/** A value that differs by less counts as the same. */
const SAME = 1e-6;

/** A group's card on the board it stands on, and models it is tried on. */
export interface TriedGroup {
  readonly document: NetworkDocument;
  /** The nodes that lead to the card, it included. */
  readonly path: readonly NodeId[];
  readonly models: readonly ProofModel[];
}

type Prepared = ProofModel & { readonly points: SamplePoints };

/** What goes out of a group at points of each model: per model one array per lane. */
export interface Looked {
  readonly values: readonly (readonly Float32Array[])[];
}

/**
 * Evaluates all that goes out of a group; values may be changed without compiling anew. Surfaces
 * that go out count with all their parameters.
 * @throws CompileError when the document has errors
 */
export class GroupTrial {
  readonly group: GroupDefinition;
  readonly document: NetworkDocument;
  private readonly keys: readonly string[];
  private readonly session: EvaluationSession;
  private readonly prepared: readonly Prepared[];
  private readonly outer: BoardId;
  private readonly card: NodeId;

  constructor({ document, path, models }: TriedGroup) {
    const node = findNode(document, path);
    const group = node && findGroupDefinition(document, node);
    if (!node || !group) throw new Error('Invariant broken: there is no group at the path');
    this.document = document;
    this.group = group;
    this.card = node.id;
    this.outer = boardAt(document, path.slice(0, -1));
    this.keys = group.outputs.map(({ id }) => outputKey([...path], id));
    this.session = this.newSession();
    this.prepared = models.map((model) => ({
      ...model,
      points: uniformPoints(model.analysis.mesh, POINTS),
    }));
  }

  private newSession(): EvaluationSession {
    return new EvaluationSession({ surface: false, taps: this.keys });
  }

  /** With every dial home but those given. */
  at(settings: DialValues): Looked {
    return this.look(this.homed(settings));
  }

  /** With one value inside changed, all dials home. */
  nudged(node: NodeId, input: string, value: number): Looked {
    return this.look(setValue(this.homed({}), this.group.id, node, input, value));
  }

  /** The wired inputs of the card, as they are unplugged one at a time. */
  wiredInputs(): readonly string[] {
    const { strands } = getNetwork(this.document, this.outer);
    return this.group.inputs
      .map(({ id }) => id)
      .filter((id) => strands.some(({ to }) => to.node === this.card && to.input === id));
  }

  /** With one input unplugged, all dials home; compiled for itself. */
  unplugged(input: string): Looked {
    const ids = getNetwork(this.document, this.outer)
      .strands.filter(({ to }) => to.node === this.card && to.input === input)
      .map(({ id }) => id);
    return this.look(disconnect(this.homed({}), this.outer, ids), this.newSession());
  }

  /**
   * The same as it is seen: of a surface that goes out the colours of some of its points as a
   * scene lights them, so that a parameter which nobody sees counts for nothing.
   */
  seen({ values }: Looked): Looked {
    const { slots } = this.session.prepare(this.document);
    return {
      values: values.map((lanes, model) =>
        slots.flatMap(({ kind, first, lanes: count }) => {
          const own = lanes.slice(first, first + count);
          const prepared = this.prepared[model];
          return kind === 'surface' && prepared ? this.litColours(own, prepared) : own;
        }),
      ),
    };
  }

  private litColours(
    lanes: readonly Float32Array[],
    { analysis, points }: Prepared,
  ): readonly Float32Array[] {
    const lit = sceneLighting(this.document, analysis, points);
    const colours = [0, 1, 2].map(() => new Float32Array(Math.ceil(points.count / EVERY)));
    for (let k = 0, n = 0; k < points.count; k += EVERY, n++) {
      const normal = points.normals.subarray(k * 3, k * 3 + 3);
      const view = normalise([(normal[0] ?? 0) + 0.3, (normal[1] ?? 0) + 0.2, normal[2] ?? 0]);
      const surface = sampleSurface(lanes, k);
      displayColour(shadePoint(surface, view, lit(k)), surface.unlit).forEach((channel, c) => {
        const lane = colours[c];
        if (lane) lane[n] = channel / 255;
      });
    }
    return colours;
  }

  /** Whether other maps of a model are read at other settings: those must be measured first. */
  asksForMaps(settings: readonly DialValues[]): boolean {
    const asked = settings.map((values) =>
      JSON.stringify(
        this.prepared.map(({ analysis }) =>
          this.session.demands(this.homed(values), analysis.mesh).map(({ resolved }) => resolved),
        ),
      ),
    );
    return new Set(asked).size > 1;
  }

  private homed(values: DialValues): NetworkDocument {
    return setDials(this.document, this.outer, this.card, values);
  }

  private look(document: NetworkDocument, session = this.session): Looked {
    return {
      values: this.prepared.map(({ analysis, maps, points }) =>
        session.evaluate(document, analysis.mesh, points, maps),
      ),
    };
  }
}

/** The share of points at which two looks differ, on all models together. */
export function differing(a: Looked, b: Looked): number {
  let [differ, points] = [0, 0];
  a.values.forEach((lanes, model) => {
    const others = b.values[model] ?? [];
    const count = lanes[0]?.length ?? 0;
    points += count;
    for (let k = 0; k < count; k++)
      if (lanes.some((lane, l) => !(Math.abs((lane[k] ?? 0) - (others[l]?.[k] ?? 0)) <= SAME)))
        differ++;
  });
  return points > 0 ? differ / points : 0;
}

/** The mean over all points and lanes of how far two looks are apart. */
export function apart(a: Looked, b: Looked): number {
  let [sum, count] = [0, 0];
  a.values.forEach((lanes, model) => {
    lanes.forEach((lane, l) => {
      const other = b.values[model]?.[l];
      for (let k = 0; k < lane.length; k++) {
        const distance = Math.abs((lane[k] ?? 0) - (other?.[k] ?? 0));
        if (Number.isFinite(distance)) sum += distance;
        count++;
      }
    });
  });
  return count > 0 ? sum / count : 0;
}

/** The largest distance of two looks at any point, in any lane; what is no number counts as 0. */
export function furthest(a: Looked, b: Looked): number {
  let most = 0;
  a.values.forEach((lanes, model) => {
    lanes.forEach((lane, l) => {
      const other = b.values[model]?.[l];
      for (let k = 0; k < lane.length; k++) {
        const distance = Math.abs((lane[k] ?? 0) - (other?.[k] ?? 0));
        if (distance > most) most = distance;
      }
    });
  });
  return most;
}

/** What is wrong with the values of a look. */
export interface Limits {
  readonly hasNaN: boolean;
  readonly isBeyond: boolean;
}

/** Whether values are no numbers, or leave 0–1. */
export function limitsOf({ values }: Looked): Limits {
  let [hasNaN, isBeyond] = [false, false];
  for (const lanes of values)
    for (const lane of lanes)
      for (const value of lane) {
        if (!Number.isFinite(value)) hasNaN = true;
        else if (value < -SAME || value > 1 + SAME) isBeyond = true;
      }
  return { hasNaN, isBeyond };
}

/** What happens at a look that does not happen at home, in words; null where nothing does. */
export function faultBeyond(look: Looked, home: Limits): string | null {
  const found = limitsOf(look);
  if (found.hasNaN && !home.hasNaN) return 'stop being numbers';
  return found.isBeyond && !home.isBeyond ? 'leave 0–1' : null;
}
