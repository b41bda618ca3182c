import { WasmRunner } from '../backends/wasm/runner';
import { compileNetwork, mapDemands, structureKey, uniformsFor } from '../compile/compile';
import type { CompileRequest, CompiledNetwork, MapDemand } from '../compile/compile';
import type { ModelScale, Standing } from '../compile/model-scale';
import { bindImages, imageDemands } from '../compile/images';
import type { ImageSource } from '../compile/images';
import type { NetworkDocument } from '../graph/document';
import { threadImages } from './image-store';
import { lanesOf } from '../mesh/lanes';
import type { MeshMap } from '../mesh/mesh-map';
import type { SamplePoints } from '../mesh/sample-points';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { mapKey, settleMap } from '../mesh/analysis';
import type { MapSettings } from '../mesh/analysis';

/** Provides a mesh map by its settings; undefined while there is none. */
export type MapSource = (settings: MapSettings) => MeshMap | undefined;

/** A compiled document in this thread, kept while only values change. */
export class EvaluationSession {
  private compiled: CompiledNetwork | null = null;
  private runner: WasmRunner | null = null;
  private key = '';
  private readonly lastMaps = new Map<string, { readonly mesh: SurfaceMesh; readonly map: MeshMap }>();
  /** How often something was compiled; dragging a value must not raise it. */
  compilations = 0;

  /** @param images where images come from; those known to this thread unless told otherwise */
  constructor(private readonly request: CompileRequest, private readonly images: ImageSource = (hash, reading) => threadImages.sheet(hash, reading)) {}

  /** Compiles when the structure has changed. Throws CompileError. */
  prepare(document: NetworkDocument): CompiledNetwork {
    const key = structureKey(document);
    if (!this.compiled || key !== this.key) {
      this.compiled = compileNetwork(document, this.request);
      this.runner = new WasmRunner(this.compiled.program);
      this.key = key;
      this.compilations++;
    }
    return this.compiled;
  }

  /** The maps the document reads on this mesh. */
  demands(document: NetworkDocument, mesh: SurfaceMesh): readonly (MapDemand & { readonly resolved: MapSettings })[] {
    const compiled = this.prepare(document);
    return demandsOf(compiled, uniformsFor(compiled, document, scaleOf(mesh)), mesh);
  }

  /** Evaluates points of a mesh. Returns one array per program output; an empty one for those not `wanted`. */
  evaluate(document: NetworkDocument, mesh: SurfaceMesh, points: SamplePoints, source: MapSource, { wanted, standing }: { readonly wanted?: ReadonlySet<number> | undefined; readonly standing?: Standing | undefined } = {}): readonly Float32Array<ArrayBuffer>[] {
    const compiled = this.prepare(document);
    const uniforms = uniformsFor(compiled, document, scaleOf(mesh, standing));
    const maps = new Map<string, MeshMap>();
    for (const demand of demandsOf(compiled, uniforms, mesh)) {
      const map = source(demand.resolved) ?? this.lastMap(demand.field, mesh);
      if (!map) continue;
      maps.set(demand.field, map);
      this.lastMaps.set(demand.field, { mesh, map });
    }
    this.runner?.setImages(bindImages(imageDemands(compiled.imageSlots, document), uniforms, this.images));
    return this.run(uniforms, lanesOf(mesh, points, maps), points.count, wanted);
  }

  /** Until a map with new settings is measured, the one before stands in for it. */
  private lastMap(field: string, mesh: SurfaceMesh): MeshMap | undefined {
    const last = this.lastMaps.get(field);
    return last?.mesh === mesh ? last.map : undefined;
  }

  /** Evaluates given lanes. `uniforms` come from `uniformsFor`. */
  run(uniforms: Float32Array, lanes: (name: string) => Float32Array | undefined, count: number, wanted?: ReadonlySet<number>): readonly Float32Array<ArrayBuffer>[] {
    const outputs = (this.compiled?.program.outputs ?? []).map((_, k) => new Float32Array(!wanted || wanted.has(k) ? count : 0));
    this.runner?.setUniforms(uniforms);
    this.runner?.run(lanes, count, outputs);
    return outputs;
  }
}

/** @param standing where the model stands when it is not the current one */
export const scaleOf = ({ size, minimum, extent, attributes }: SurfaceMesh, standing?: Standing): ModelScale => ({ size, minimum, extent, attributes, ...(standing ? { standing } : {}) });

export function demandsOf(compiled: CompiledNetwork, uniforms: Float32Array, mesh: SurfaceMesh): readonly (MapDemand & { readonly resolved: MapSettings })[] {
  // A light that is not there throws no shadow.
  const isNeeded = ({ resolved }: { resolved: MapSettings }): boolean => resolved.kind !== 'shadow' || resolved.isNear || resolved.at.some((x) => x !== 0);
  return mapDemands(compiled, uniforms).map((demand) => ({ ...demand, resolved: settleMap(demand.kind, demand.settings, demand.choices, mesh.size) })).filter(isNeeded);
}

export { mapKey };
