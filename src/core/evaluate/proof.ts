import { findChanges } from './proof-changes';
import type { ChangedValue } from './proof-changes';
import { own } from '../base/own';
import { outputKey } from '../graph/result-key';
import { AppError } from '../base/diagnostic';
import { EMPTY_NETWORK } from '../graph/document';
import type { GroupDefinition, NetworkDocument, NodeInstance, Origin } from '../graph/document';
import { MAP_SIZE, mapKey } from '../mesh/analysis';
import type { MeshAnalysis } from '../mesh/analysis';
import type { MeshMap } from '../mesh/mesh-map';
import { uniformPoints } from '../mesh/sample-points';
import type { SamplePoints } from '../mesh/sample-points';
import { EvaluationSession } from './session';
import type { MapSource } from './session';

/** Points per reference model. */
export const PROOF_POINTS = 4096;

/** A reference model of the proof, with the maps measured on it. */
export interface ProofModel {
  readonly name: string;
  readonly analysis: MeshAnalysis;
  readonly maps: MapSource;
}

/** Where a group and the network it came from differ most. */
export interface ProofDifference {
  readonly model: string;
  readonly output: string;
  /** Largest difference of any lane, and the position (metres) where it occurs. */
  readonly largest: number;
  readonly where: readonly [number, number, number];
  /** Share of points that differ. */
  readonly share: number;
}
/** What the proof of a group found. */
export interface Proof {
  readonly identical: boolean;
  /** Set where the group came from no network: it was compared with its own inside, dials away. */
  readonly against?: 'inside';
  readonly points: number;
  readonly models: readonly string[];
  readonly difference: ProofDifference | null;
  /** What has changed since, the change that accounts for most of the difference first. */
  readonly changes: readonly ChangedValue[];
}

const PROBE = 'proof-instance';

/**
 * Compares a group at home with the network it was packaged from, on the same points, bit by bit in
 * f32; one that was built from inside with its own inside, as it is with the dials away.
 * @param whole the saved revision the group names as its origin; only what the group is made of
 *   must be free of errors
 * @param candidate the document that holds the group and the groups it uses
 * @throws AppError when there is no such group; CompileError when either network is broken
 */
export function proveGroup(
  whole: NetworkDocument,
  candidate: NetworkDocument,
  groupId: string,
  models: readonly ProofModel[],
): Proof {
  const group = own(candidate.groups, groupId);
  if (!group) throw new AppError('proof.no-group', 'There is no such group.', 'Reload the page.');
  if (!group.origin) return proveInside(candidate, group, models);
  const { origin } = group;
  const prepared = prepare(models);
  const source = neededFor(whole, origin);
  const before = prepared.map((model) =>
    readOutputs(
      source,
      Object.values(origin.outputs).map(({ node, output }) => outputKey([node], output)),
      model,
    ),
  );
  const compare = (document: NetworkDocument): ProofDifference | null =>
    findDifference(group, Object.keys(origin.outputs), document, prepared, before);
  const trial = withCandidate(source, candidate, group);
  const difference = compare(trial);
  return {
    identical: difference === null,
    points: PROOF_POINTS,
    models: models.map((model) => model.name),
    difference,
    changes: difference
      ? findChanges(source, trial, renamed(group.id), compare).filter(
          (change) => change.largestWithout < difference.largest,
        )
      : [],
  };
}

const prepare = (models: readonly ProofModel[]): readonly Prepared[] =>
  models.map((model) => ({
    ...model,
    maps: alikeMaps(model),
    points: uniformPoints(model.analysis.mesh, PROOF_POINTS),
  }));

/** A group with its dials at home beside the same group without what its dials drive. */
function proveInside(
  candidate: NetworkDocument,
  group: GroupDefinition,
  models: readonly ProofModel[],
): Proof {
  const outputs = group.outputs.map(({ id }) => id);
  const board = { ...candidate, network: EMPTY_NETWORK };
  const still = { ...group, dials: group.dials.map((dial) => ({ ...dial, drives: [] })) };
  const plain = { ...candidate, groups: { ...candidate.groups, [group.id]: still } };
  const prepared = prepare(models);
  const keys = outputs.map((id) => outputKey([PROBE], id));
  const before = prepared.map((model) =>
    readOutputs(withCandidate(board, plain, still), keys, model),
  );
  const trial = withCandidate(board, candidate, group);
  const difference = findDifference(group, outputs, trial, prepared, before);
  return {
    identical: difference === null,
    against: 'inside',
    points: PROOF_POINTS,
    models: models.map((model) => model.name),
    difference,
    changes: [],
  };
}

/**
 * Maps by supplied normals are named after the network that supplies them, and packaging renames
 * that: they are measured here, for both sides in the same way. What else there is, is the same map
 * on both sides.
 */
function alikeMaps({ analysis, maps }: ProofModel): MapSource {
  const measured = new Map<string, MeshMap>();
  return (settings, detail) => {
    if (!detail) return maps(settings);
    const key = mapKey(settings);
    const map = measured.get(key) ?? analysis.quickMap(settings, MAP_SIZE.quick, detail);
    measured.set(key, map);
    return map;
  };
}

type Prepared = ProofModel & { readonly points: SamplePoints };

function readOutputs(
  document: NetworkDocument,
  keys: readonly string[],
  model: Prepared,
): readonly (readonly Float32Array[])[] {
  const session = new EvaluationSession({ surface: false, taps: keys });
  const compiled = session.prepare(document);
  const lanes = session.evaluate(document, model.analysis.mesh, model.points, model.maps);
  return keys.map((key) => {
    const slot = compiled.slots.find((each) => each.key === key);
    return slot ? lanes.slice(slot.first, slot.first + slot.lanes) : [];
  });
}

/**
 * The source without what neither feeds the group nor is fed by it: an error elsewhere is not the
 * group's.
 */
function neededFor(source: NetworkDocument, { inputs, outputs }: Origin): NetworkDocument {
  const { network } = source;
  const needed = new Set<string>();
  const waiting = [...Object.values(inputs), ...Object.values(outputs)].map(({ node }) => node);
  for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
    if (needed.has(id)) continue;
    needed.add(id);
    for (const { from, to } of network.strands) if (to.node === id) waiting.push(from.node);
  }
  const nodes = network.nodes.filter(({ id }) => needed.has(id));
  const strands = network.strands.filter(
    ({ from, to }) => needed.has(from.node) && needed.has(to.node),
  );
  return { ...source, network: { ...network, nodes, strands } };
}

const renamed = (id: string): string => `candidate.${id}`;

/** The source network with one more node: the candidate at home, fed as the origin says. */
function withCandidate(
  source: NetworkDocument,
  candidate: NetworkDocument,
  group: GroupDefinition,
): NetworkDocument {
  const rename = (node: NodeInstance): NodeInstance =>
    node.group === undefined ? node : { ...node, group: renamed(node.group) };
  const groups = Object.fromEntries(
    Object.values(candidate.groups).map((each) => [
      renamed(each.id),
      {
        ...each,
        id: renamed(each.id),
        network: { ...each.network, nodes: each.network.nodes.map(rename) },
      },
    ]),
  );
  const instance: NodeInstance = {
    id: PROBE,
    type: 'group',
    version: 1,
    at: [0, 0],
    values: {},
    options: {},
    group: renamed(group.id),
  };
  const strands = Object.entries(group.origin?.inputs ?? {})
    .filter(([input]) => group.inputs.some((port) => port.id === input))
    .map(([input, from], k) => ({
      id: `${PROBE}-${String(k)}`,
      from,
      to: { node: PROBE, input },
      order: 0,
    }));
  return {
    ...source,
    groups: { ...source.groups, ...groups },
    network: {
      ...source.network,
      nodes: [...source.network.nodes, instance],
      strands: [...source.network.strands, ...strands],
    },
  };
}

function findDifference(
  group: GroupDefinition,
  outputs: readonly string[],
  trial: NetworkDocument,
  models: readonly Prepared[],
  before: readonly (readonly (readonly Float32Array[])[])[],
): ProofDifference | null {
  let worst: ProofDifference | null = null;
  models.forEach((model, m) => {
    const after = readOutputs(
      trial,
      outputs.map((id) => outputKey([PROBE], id)),
      model,
    );
    outputs.forEach((output, k) => {
      const found = compareLanes(
        before[m]?.[k] ?? [],
        after[k] ?? [],
        model,
        group.outputs.find((port) => port.id === output)?.name ?? output,
      );
      if (found && (!worst || found.largest > worst.largest)) worst = found;
    });
  });
  return worst;
}

function compareLanes(
  before: readonly Float32Array[],
  after: readonly Float32Array[],
  model: Prepared,
  output: string,
): ProofDifference | null {
  if (before.length !== after.length)
    return { model: model.name, output, largest: Infinity, where: [0, 0, 0], share: 1 };
  let largest = 0,
    at = 0;
  const different = new Set<number>();
  before.forEach((lane, c) => {
    const other = after[c] as Float32Array;
    lane.forEach((value, k) => {
      const now = other[k] as number;
      if (value === now || (Number.isNaN(value) && Number.isNaN(now))) return;
      different.add(k);
      const distance = Number.isNaN(value - now) ? Infinity : Math.abs(value - now);
      if (distance > largest) {
        largest = distance;
        at = k;
      }
    });
  });
  if (different.size === 0) return null;
  const p = model.points.positions;
  return {
    model: model.name,
    output,
    largest,
    where: [p[at * 3] as number, p[at * 3 + 1] as number, p[at * 3 + 2] as number],
    share: different.size / model.points.count,
  };
}
