import type { NodeId } from '../base/ids';
import { normalise } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { describePorts, findGroupDefinition } from '../compile/catalogue';
import { boardAt } from '../edit/board';
import { setValue } from '../edit/nodes';
import type { InputValue, Network, NetworkDocument, NodeInstance } from '../graph/document';
import type { SamplePoints } from '../mesh/sample-points';
import { sampleSurface, shadePoint } from '../surface/shade';
import { displayColour } from '../surface/tone';
import { trialsOf } from './influence';
import type { ValuePlace } from './influence';
import { sceneLighting } from './lighting';
import type { LoadedModel } from './loaded-model';
import type { EvaluationSession } from './session';
import { titleInList } from '../compile/told-apart';

/** A value and how much it changes what is seen at a point. */
export interface StrongValue extends ValuePlace {
  /** What the node and the input are called. */
  readonly title: string;
  /** Change of the shown colour, 0–1 in the channel that changes most, per width of the slider. */
  readonly strength: number;
}

/** So many are told. */
const MOST_TOLD = 12;

/** Every typed value that nothing is wired to, on the board and inside groups. */
function listPlaces(
  document: NetworkDocument,
  path: readonly NodeId[],
  network: Network,
): readonly (ValuePlace & { readonly title: string })[] {
  const { nodes, strands } = network;
  const wired = new Set(strands.map(({ to }) => `${to.node} ${to.input}`));
  const placesOf = (node: NodeInstance) =>
    (describePorts(document, node)?.inputs ?? [])
      .filter(({ id, port }) => !wired.has(`${node.id} ${id}`) && port?.counts !== 'seed')
      .map(({ id, title }) => ({
        path,
        node: node.id,
        input: id,
        title: `${titleInList(document, network, node)}, ${title}`,
      }));
  return nodes.flatMap((node) => {
    const group = findGroupDefinition(document, node);
    return [
      ...placesOf(node),
      ...(group ? listPlaces(document, [...path, node.id], group.network) : []),
    ];
  });
}

/**
 * What would change the shown colour of a point most: the derivative by each typed value, by finite
 * differences around the present setting. The strongest first; those that change nothing are left
 * out. The program of the session must write the finished surface.
 * @param at a single point, seen from an eye
 * @throws CompileError when the document has errors
 */
export function strongestValues(
  session: EvaluationSession,
  model: LoadedModel,
  document: NetworkDocument,
  at: SamplePoints,
  eye: Vec3,
): readonly StrongValue[] {
  const lit = sceneLighting(document, model.analysis, at)(0);
  const [x = 0, y = 0, z = 0] = at.positions;
  const view = normalise([eye[0] - x, eye[1] - y, eye[2] - z]);
  const shown = ({ path, node, input }: ValuePlace, value: InputValue): Vec3 => {
    const set = setValue(document, boardAt(document, path), node, input, value);
    const surface = sampleSurface(
      session.evaluate(set, model.mesh, at, model.maps, { isExact: true }),
      0,
    );
    return displayColour(shadePoint(surface, view, lit), surface.unlit, false);
  };
  return listPlaces(document, [], document.network)
    .flatMap((place) => {
      const strength = (trialsOf(document, place)?.pairs ?? []).reduce((most, pair) => {
        const [a, b] = [shown(place, pair.below), shown(place, pair.above)];
        const change = Math.max(...a.map((channel, k) => Math.abs(channel - (b[k] ?? 0)))) / 255;
        return pair.apart > 0 ? Math.max(most, change / pair.apart) : most;
      }, 0);
      return strength > 0 ? [{ ...place, strength }] : [];
    })
    .sort((a, b) => b.strength - a.strength)
    .slice(0, MOST_TOLD);
}
