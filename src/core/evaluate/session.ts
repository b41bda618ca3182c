import { AppError } from '../base/diagnostic';
import type { ImageHash, LaneName, ResultKey } from '../base/ids';
import { parseLaneName } from '../base/lane-name';
import { WasmRunner } from '../backends/wasm/runner';
import { compileNetwork, uniformsFor } from '../compile/compile';
import { demandsOf, getModelScale } from './map-demands';
import type { DetailRequest, ResolvedDemand } from './map-demands';
import { dependentKeys } from './unknown-results';
import { structureKey } from '../compile/structure';
import type { CompileRequest, CompiledNetwork } from '../compile/compile';
import type { ModelScale, CompanionFrame } from '../compile/model-scale';
import { bindImages, imageDemands } from '../compile/images';
import type { ImageSource } from '../compile/images';
import type { NetworkDocument } from '../graph/document';
import { threadImages } from './image-store';
import { splitLanes } from '../mesh/lanes';
import type { MeshMap } from '../mesh/mesh-map';
import type { SamplePoints } from '../mesh/sample-points';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { mapKey } from '../mesh/analysis';
import type { DetailSource, MapSettings } from '../mesh/analysis';

/** Provides a mesh map by its settings; undefined while there is none. */
export type MapSource = (settings: MapSettings, detail?: DetailSource) => MeshMap | undefined;

/** A map with those that must be finished before it. */
export interface NestedDemand extends ResolvedDemand {
  readonly needs: readonly MapSettings[];
}

/** What else an evaluation may be told. */
interface EvaluationExtras {
  /** The outputs that are wanted; all where left out. */
  readonly wanted?: ReadonlySet<number> | undefined;
  readonly frame?: CompanionFrame | undefined;
  /** Whether to refuse where a map is not measured yet, or measured with other settings. */
  readonly isExact?: boolean;
  /** Attributes the model does not have itself: lanes by their names, a number for each point. */
  readonly attributes?: ReadonlyMap<LaneName, Float32Array<ArrayBuffer>> | undefined;
}

/** A model's scale with attributes that are only lent to it. */
function withAttributes(scale: ModelScale, attributes: EvaluationExtras['attributes']): ModelScale {
  if (!attributes) return scale;
  const lent = [...attributes.keys()].flatMap((lane) => {
    const parsed = parseLaneName(lane);
    return parsed.of === 'attribute' ? [{ name: parsed.name, width: 1 }] : [];
  });
  return { ...scale, attributes: [...(scale.attributes ?? []), ...lent] };
}

/** A compiled document in this thread, kept while only values change. */
export class EvaluationSession {
  private compiled: CompiledNetwork | null = null;
  private runner: WasmRunner | null = null;
  private key = '';
  private readonly lastMaps = new Map<
    string,
    { readonly mesh: SurfaceMesh; readonly map: MeshMap }
  >();
  /** How often something was compiled; dragging a value must not raise it. */
  compilations = 0;

  /** @param images where images come from; those known to this thread unless told otherwise */
  constructor(
    private readonly request: CompileRequest,
    private readonly images: ImageSource = (hash, reading) => threadImages.sheet(hash, reading),
  ) {}

  /** Compiles when the structure has changed. Throws CompileError. */
  prepare(document: NetworkDocument): CompiledNetwork {
    const key = structureKey(document);
    if (!this.compiled || key !== this.key) {
      this.compiled = compileNetwork(document, this.request);
      this.runner = null;
      this.key = key;
      this.compilations++;
    }
    return this.compiled;
  }

  /** The program of what was prepared; made when something is evaluated. */
  private get program(): WasmRunner {
    if (!this.compiled) throw new Error('Invariant broken: nothing is compiled');
    return (this.runner ??= new WasmRunner(this.compiled.program));
  }

  /** The maps the document reads on this mesh. */
  demands(
    document: NetworkDocument,
    mesh: SurfaceMesh,
    frame?: CompanionFrame,
  ): readonly ResolvedDemand[] {
    const compiled = this.prepare(document);
    return demandsOf(
      compiled,
      uniformsFor(compiled, document, getModelScale(mesh, frame)),
      mesh,
      document,
      frame,
    );
  }

  /**
   * Evaluates points of a mesh. Returns one array per program output; an empty one for those not
   * `wanted`.
   * @throws AppError `values.unknown` where exact values are asked for that are not known yet
   */
  evaluate(
    document: NetworkDocument,
    mesh: SurfaceMesh,
    points: SamplePoints,
    source: MapSource,
    { wanted, frame, attributes, isExact = false }: EvaluationExtras = {},
  ): readonly Float32Array<ArrayBuffer>[] {
    const compiled = this.prepare(document);
    const scale = withAttributes(getModelScale(mesh, frame), attributes);
    const uniforms = uniformsFor(compiled, document, scale);
    if (isExact) this.refuseUnknown(document, mesh, source, frame);
    const maps = new Map<string, MeshMap>();
    for (const demand of demandsOf(compiled, uniforms, mesh, document, frame)) {
      const map =
        source(demand.resolved, demand.detail && detailNormals(demand.detail, mesh, source)) ??
        this.lastMap(demand.field, mesh);
      if (!map) continue;
      maps.set(demand.field, map);
      this.lastMaps.set(demand.field, { mesh, map });
    }
    this.program.setImages(
      bindImages(imageDemands(compiled.imageSlots, document), uniforms, this.images),
    );
    const lanes = splitLanes(mesh, points, maps);
    const given = attributes ? (name: string) => attributes.get(name) ?? lanes(name) : lanes;
    return this.run(uniforms, given, points.count, wanted);
  }

  /**
   * What depends on a map that was never measured or on an image that is on its way: nothing is
   * known of it yet. The keys of its results.
   * @param waiting hashes of images that are on their way
   */
  unknown(
    document: NetworkDocument,
    mesh: SurfaceMesh,
    source: MapSource,
    { frame, waiting = [] }: { frame?: CompanionFrame; waiting?: readonly ImageHash[] } = {},
  ): ReadonlySet<ResultKey> {
    const compiled = this.prepare(document);
    const fields = this.demands(document, mesh, frame).flatMap(({ field, resolved }) =>
      source(resolved) || this.lastMap(field, mesh) ? [] : [field],
    );
    const images =
      waiting.length === 0
        ? []
        : imageDemands(compiled.imageSlots, document)
            .filter(({ hash }) => waiting.includes(hash))
            .map(({ slot }) => slot);
    return dependentKeys(compiled, fields, images);
  }

  private refuseUnknown(
    document: NetworkDocument,
    mesh: SurfaceMesh,
    source: MapSource,
    frame: CompanionFrame | undefined,
  ): void {
    const missing = this.demands(document, mesh, frame).filter(({ resolved }) => !source(resolved));
    const fields = missing.map(({ field }) => field);
    if (dependentKeys(this.prepare(document), fields, []).size === 0) return;
    throw new AppError(
      'values.unknown',
      'What this depends on is still being measured on the model.',
      'Ask again when the measuring has ended.',
      { kept: 'Your work is kept.' },
    );
  }

  /** Until a map with new settings is measured, the one before stands in for it. */
  private lastMap(field: string, mesh: SurfaceMesh): MeshMap | undefined {
    const last = this.lastMaps.get(field);
    return last?.mesh === mesh ? last.map : undefined;
  }

  /** Evaluates given lanes. `uniforms` come from `uniformsFor`. */
  run(
    uniforms: Float32Array,
    lanes: (name: string) => Float32Array | undefined,
    count: number,
    wanted?: ReadonlySet<number>,
  ): readonly Float32Array<ArrayBuffer>[] {
    const outputs = (this.compiled?.program.outputs ?? []).map(
      (_, k) => new Float32Array(!wanted || wanted.has(k) ? count : 0),
    );
    this.program.setUniforms(uniforms);
    this.program.run(lanes, count, outputs);
    return outputs;
  }
}

/**
 * Sessions for the normals of a few inputs, so that dragging a value that feeds them compiles
 * nothing.
 */
const DETAIL_SESSIONS = 8;
const detailSessions = new Map<string, EvaluationSession>();
function detailSession({ key }: DetailRequest): EvaluationSession {
  const known = detailSessions.get(key);
  if (known) return known;
  const made = new EvaluationSession({ surface: false, taps: [key], antialias: ['images'] });
  detailSessions.set(key, made);
  const [oldest] = detailSessions.keys();
  if (detailSessions.size > DETAIL_SESSIONS && oldest !== undefined) detailSessions.delete(oldest);
  return made;
}
const nestedDemands = (detail: DetailRequest, mesh: SurfaceMesh): readonly ResolvedDemand[] =>
  detailSession(detail).demands(detail.document, mesh, detail.frame);

/**
 * The maps, and before each those that the normals it is measured by need themselves; these have no
 * field.
 */
export function withNested(
  demands: readonly ResolvedDemand[],
  mesh: SurfaceMesh,
): readonly NestedDemand[] {
  return demands.flatMap((demand) => {
    const needed = demand.detail
      ? withNested(nestedDemands(demand.detail, mesh), mesh).map((each) => ({ ...each, field: '' }))
      : [];
    return [...needed, { ...demand, needs: needed.map(({ resolved }) => resolved) }];
  });
}

/**
 * The normals that arrive at an input, at any points of a mesh: unit, three numbers each; the
 * surface's own where there is no direction.
 */
export function detailNormals(
  detail: DetailRequest,
  mesh: SurfaceMesh,
  source: MapSource,
): DetailSource {
  return (points) => {
    const lanes = detailSession(detail).evaluate(detail.document, mesh, points, source, {
      frame: detail.frame,
    });
    const normals = new Float32Array(points.count * 3);
    for (let k = 0; k < points.count; k++) {
      const [x = 0, y = 0, z = 0] = [lanes[0]?.[k], lanes[1]?.[k], lanes[2]?.[k]];
      const squared = x * x + y * y + z * z,
        scale = 1 / Math.sqrt(squared);
      const isDirection = squared > 1e-12 && squared < 1e12;
      normals.set(
        isDirection ? [x * scale, y * scale, z * scale] : points.normals.subarray(k * 3, k * 3 + 3),
        k * 3,
      );
    }
    return normals;
  };
}

export { mapKey };
