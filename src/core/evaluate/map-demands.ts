import type { CompiledNetwork, MapDemand } from '../compile/compile';
import { mapDemands } from '../compile/compile';
import { feedingText } from '../compile/feeding';
import type { CompanionFrame, ModelScale } from '../compile/model-scale';
import type { NetworkDocument } from '../graph/document';
import { arrivingKey } from '../graph/result-key';
import { mapDefinition, measuredBy, resolveMapSettings } from '../mesh/analysis';
import type { MapSettings } from '../mesh/analysis';
import type { MeshFacts } from '../mesh/mesh-facts';
import type { SurfaceMesh } from '../mesh/surface-mesh';

/** Whose arriving normals a map is measured by: a result key (`path<input`) of a document. */
export interface DetailRequest {
  readonly document: NetworkDocument;
  readonly key: string;
  readonly frame?: CompanionFrame;
}
/** A map a network reads on a model; `field` is what its program calls it. */
export interface ResolvedDemand {
  readonly field: string;
  readonly resolved: MapSettings;
  readonly detail?: DetailRequest;
}

/** @param frame where a companion stands; when it is not the current one */
export const getModelScale = (
  {
    size,
    minimum,
    extent,
    attributes,
  }: Pick<MeshFacts, 'size' | 'minimum' | 'extent' | 'attributes'>,
  frame?: CompanionFrame,
): ModelScale => ({ size, minimum, extent, attributes, ...(frame ? { frame } : {}) });

/** The maps a compiled document reads on a mesh. */
export function demandsOf(
  compiled: CompiledNetwork,
  uniforms: Float32Array,
  mesh: SurfaceMesh,
  document: NetworkDocument,
  frame?: CompanionFrame,
): readonly ResolvedDemand[] {
  return mapDemands(compiled, uniforms).flatMap((demand) =>
    resolve(demand, mesh, { document, ...(frame ? { frame } : {}) }),
  );
}

function resolve(
  { field, kind, settings, choices, detail }: MapDemand,
  mesh: SurfaceMesh,
  source: Omit<DetailRequest, 'key'>,
): readonly ResolvedDemand[] {
  const resolved = resolveMapSettings(kind, settings, choices, mesh.size);
  const definition = mapDefinition(kind);
  if (definition.isNothing?.(resolved)) return [];
  if (!detail || !definition.takesDetail) return [{ field, resolved }];
  const frame = source.frame ? JSON.stringify(source.frame) : '';
  const text = feedingText(source.document, detail.path, detail.input) + frame;
  return [
    {
      field,
      resolved: measuredBy(resolved, text),
      detail: { ...source, key: arrivingKey(detail.path, detail.input) },
    },
  ];
}
