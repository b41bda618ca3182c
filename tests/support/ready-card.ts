import { readFileSync } from 'node:fs';
import { READY_GROUPS, addReadyGroup } from '@/core/edit/ready-groups';
import { MeshAnalysis, mapKey } from '@/core/mesh/analysis';
import type { MapSettings } from '@/core/mesh/analysis';
import type { MeshMap } from '@/core/mesh/mesh-map';
import type { ProofModel } from '@/core/evaluate/proof';
import { readModel } from '@/core/exchange/read-model';
import { emptyDocument } from '@/core/graph/document';
import type { GroupDefinition, NetworkDocument } from '@/core/graph/document';
import { node } from './networks';

/** Texels along the side of the maps that tests measure: enough to tell places apart. */
const SIDE = 64;

/** A demo model with maps that are measured as they are asked for. */
export async function demoModel(name: string): Promise<ProofModel> {
  const bytes = new Uint8Array(readFileSync(`assets/models/${name}.glb`));
  const { mesh } = await readModel(bytes, name);
  const analysis = new MeshAnalysis(mesh);
  const measured = new Map<string, MeshMap>();
  const maps = (settings: MapSettings): MeshMap => {
    const map = measured.get(mapKey(settings)) ?? analysis.quickMap(settings, SIDE);
    measured.set(mapKey(settings), map);
    return map;
  };
  return { name, analysis, maps };
}

/** A ready group on a board of its own, with noise wired to what it takes. */
export function readyCard(name: string): {
  readonly document: NetworkDocument;
  readonly card: string;
  readonly group: GroupDefinition;
} {
  const added = addReadyGroup(emptyDocument(name), null, name, [0, 0]);
  const [group] = Object.values(added.document.groups);
  if (!group) throw new Error(`there is no ready group ${name}`);
  const { network } = added.document;
  const fed = {
    ...network,
    nodes: [...network.nodes, node('fed', 'patterns.fractal-noise', { scale: 5 })],
    strands: group.inputs.map(({ id }, k) => ({
      id: `feed${String(k)}`,
      from: { node: 'fed', output: 'value' },
      to: { node: added.id, input: id },
      order: 0,
    })),
  };
  return { document: { ...added.document, network: fed }, card: added.id, group };
}

/** The names of all ready groups. */
export const READY_NAMES: readonly string[] = READY_GROUPS.map(({ name }) => name);
