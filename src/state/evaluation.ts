import { describePorts } from '../core/compile/catalogue';
import { structureKey } from '../core/compile/compile';
import { writeUniforms } from '../core/compile/uniforms';
import { bindImages, imageDemands } from '../core/compile/images';
import type { ImageDemand } from '../core/compile/images';
import type { ImageAtlas } from '../core/base/image';
import { networkOf } from '../core/edit/board';
import { watchedKeys } from '../core/evaluate/advice';
import { framingCamera } from '../core/evaluate/camera';
import { scaleOf } from '../core/evaluate/session';
import { lightsOf } from '../core/compile/lights';
import type { ModelScale } from '../core/compile/model-scale';
import { DEFAULT_SURROUNDINGS } from '../core/graph/document';
import type { NetworkDocument, SceneLight, Surroundings, Triple } from '../core/graph/document';
import type { Appearance } from '../core/surface/stage-layout';
import type { MeshMap } from '../core/mesh/mesh-map';
import type { SampleExtent } from '../core/mesh/sample-points';
import type { SurfaceMesh } from '../core/mesh/surface-mesh';
import type { FillResult, Picked, ResolvedDemand, StageProgram } from '../workers/loom.worker';
import { WorkerPool, WorkerProblem, isLost, settled } from '../workers/pool';
import { boardAt, editorStore, keyOf } from './editor-store';
import type { ModelFacts, StageLook } from './editor-store';
import { stretchOf } from './looks';
import { ImageKeeper } from './images';
import { ModelKeeper } from './models';

/** What the stage draws with. Kept apart from React. */
export interface StageFeed {
  /** `program`: the graphics processor runs the network. `workers`: it is too slow for that, and the workers fill its buffer. */
  readonly mode: 'program' | 'workers';
  /** Whether a picture is still to come. */
  readonly isBusy: boolean;
  /** In the mode `workers`: something changed, ask for values again. */
  touch(): void;
  setMesh(mesh: SurfaceMesh): void;
  setProgram(program: StageProgram): void;
  setValues(values: Float32Array): void;
  setMap(field: string, map: MeshMap | null): void;
  setImage(slot: number, sheet: ImageAtlas): void;
  /** How many targets the program may write. */
  readonly targets: number;
  setAppearance(appearance: Appearance): void;
  /** `stretch`: the values of a pinned output that become black and white. */
  setLook(look: StageLook, stretch: readonly [number, number]): void;
  setSurroundings(surroundings: Surroundings): void;
  setLights(lights: readonly SceneLight[], scale: ModelScale): void;
  invalidate(): void;
}

const SWATCH = 96;

/** The first output of every node of a board, and the values arriving at ramps: what the cards and histograms show. */
export function boardTaps(document: NetworkDocument, path: readonly string[]): readonly string[] {
  const network = networkOf(document, boardAt(document, path));
  return network.nodes.flatMap((node) => {
    const output = describePorts(document, node)?.outputs[0];
    const arriving = watchedKeys({ document, network, path, node });
    return output ? [keyOf(path, node.id, output.id), ...arriving] : arriving;
  });
}

/** Follows the open document: keeps the stage's program and values, the swatches and the mesh maps up to date. */
export class Evaluation {
  readonly pool = new WorkerPool();
  readonly models = new ModelKeeper(this.pool);
  readonly images = new ImageKeeper(this.pool);
  private readonly sheets = new Map<string, ImageAtlas>();
  private stage: StageFeed | null = null;
  private mesh: { id: string; mesh: SurfaceMesh } | null = null;
  private program: { key: string; program: StageProgram } | null = null;
  private preparing = '';
  private demands: readonly ResolvedDemand[] = [];
  private evaluating = false;
  private again = false;
  private readonly undo: (() => void)[];
  /** Counters for tests and benchmarks. */
  readonly counts = { stagePrograms: 0, evaluations: 0, compilations: 0, fills: 0 };

  constructor() {
    this.undo = [
      editorStore.subscribe((state, before) => {
        if (state.document !== before.document || state.pin !== before.pin) this.updateStage();
        if (state.document.opacityMode !== before.document.opacityMode) this.showAppearance();
        if (state.document.lights !== before.document.lights || state.document.surroundings !== before.document.surroundings) this.showLights();
        if (state.look !== before.look || state.pin !== before.pin || (state.look === 'exaggerated' && state.taps !== before.taps)) this.showLook();
        if (state.document !== before.document || state.path !== before.path || state.camera !== before.camera) this.requestSwatches();
      }),
      this.models.onMaps(() => { this.feedMaps(); this.updateStage(); this.requestSwatches(); }),
      this.pool.onReplaced(() => { this.program = null; this.preparing = ''; }),
      this.images.onImages(() => { this.updateStage(); this.requestSwatches(); }),
    ];
  }

  attach(stage: StageFeed): () => void {
    this.stage = stage;
    if (this.mesh) stage.setMesh(this.mesh.mesh);
    this.showLights();
    this.showAppearance();
    this.showLook();
    this.program = null;
    this.updateStage();
    return () => { if (this.stage === stage) this.stage = null; };
  }

  close(): void {
    for (const stop of this.undo) stop();
    this.pool.close();
  }

  async show(id: string, name: string): Promise<readonly string[]> {
    const loaded = await this.models.load(id, name);
    this.mesh = { id, mesh: loaded.mesh };
    editorStore.setState({ camera: framingCamera(loaded.mesh.centre, loaded.mesh.size), model: modelFacts(loaded.mesh) });
    this.demands = [];
    this.stage?.setMesh(loaded.mesh);
    this.showLights();
    this.updateStage();
    this.requestSwatches();
    return loaded.notes;
  }

  /** Whether nothing is left to measure, to evaluate or to draw. */
  get isIdle(): boolean { return this.mesh !== null && !this.evaluating && this.preparing === '' && !this.models.isWorking && !this.images.isWorking && !(this.stage?.isBusy ?? true); }

  get currentMesh(): SurfaceMesh | null { return this.mesh?.mesh ?? null; }

  /** Values go to the stage at once; only a change of structure needs another program. */
  private updateStage(): void {
    const { document, pin } = editorStore.getState();
    if (!this.stage || !this.mesh) return;
    if (this.stage.mode === 'workers') return this.stage.touch();
    const key = `${structureKey(document)} ${pin ?? ''}`;
    if (this.program?.key === key) {
      const { bindings, uniformCount, imageSlots } = this.program.program;
      const values = writeUniforms(document, bindings, uniformCount, scaleOf(this.mesh.mesh));
      bindImages(imageDemands(imageSlots, document), values, (hash, reading) => this.sheets.get(`${hash} ${reading}`)).forEach((sheet, slot) => { this.stage?.setImage(slot, sheet); });
      this.stage.setValues(values);
      void this.fetchSheets(imageDemands(imageSlots, document));
      this.stage.invalidate();
    } else if (this.preparing !== key) {
      this.preparing = key;
      void this.prepare(key, document, pin);
    }
  }

  /** Brings sheets that the stage's program reads to this thread, then shows them. */
  private async fetchSheets(demands: readonly ImageDemand[]): Promise<void> {
    const missing = demands.filter(({ hash, reading }) => hash !== '' && !this.sheets.has(`${hash} ${reading}`));
    const fetched = await Promise.all(missing.map(async ({ hash, reading }) => [`${hash} ${reading}`, await this.images.sheet(hash, reading)] as const));
    const found = fetched.flatMap(([key, sheet]) => (sheet ? [[key, sheet] as const] : []));
    for (const [key, sheet] of found) this.sheets.set(key, sheet);
    if (found.length > 0) this.updateStage();
  }

  private async prepare(key: string, document: NetworkDocument, pin: string | null): Promise<void> {
    try {
      const program = await settled(this.pool.evaluator.prepareStage(document, pin, this.stage?.targets));
      if (this.preparing !== key) return;
      this.program = { key, program };
      this.counts.stagePrograms++;
      this.stage?.setProgram(program);
      editorStore.setState({ problem: null });
      this.feedMaps();
      this.updateStage();
    } catch (error) {
      // The stage keeps its last picture.
      if (!isLost(error)) editorStore.setState({ problem: explain(error) });
    } finally {
      if (this.preparing === key) this.preparing = '';
    }
  }

  /** Values at visible points, shared out over the workers that are free. */
  async fill(version: string, triangles: Uint32Array, weights: Float32Array, isWhole: boolean, sample?: SampleExtent): Promise<FillResult> {
    const { document, pin } = editorStore.getState();
    if (!this.mesh) throw new Error('Invariant broken: no model is shown');
    const model = this.mesh.id;
    const workers = editorStore.getState().progress ? [this.pool.evaluator] : this.pool.all;
    const share = Math.ceil(triangles.length / workers.length / 4) * 4;
    const parts = await Promise.all(workers.map((worker, k) => {
      const [from, to] = [Math.min(triangles.length, k * share), Math.min(triangles.length, (k + 1) * share)];
      return settled(worker.fill({ isWhole, ...(sample ? { sample } : {}), model, document, pin, version: `${version} ${String(workers.length)}`, triangles: triangles.slice(from, to), weights: weights.slice(from * 2, to * 2) }));
    }));
    const [first] = parts;
    if (!first) throw new Error('Invariant broken: no worker');
    const lanes = first.lanes.map((_, lane) => {
      const isGiven = parts.some((part) => (part.lanes[lane]?.length ?? 0) > 0);
      const whole = new Float32Array(isGiven ? triangles.length : 0);
      parts.forEach((part, k) => { const piece = part.lanes[lane]; if (piece && isGiven) whole.set(piece, k * share); });
      return whole;
    });
    this.counts.fills++;
    return { kind: first.kind, lanes };
  }

  private showLook(): void {
    const { look, pin, taps } = editorStore.getState();
    const stretch = pin === null ? null : stretchOf(taps.get(pin));
    this.stage?.setLook(look, stretch === null || stretch === 'constant' ? [0, 1] : stretch);
  }

  /** What a ray from the eye meets on the model; null where that is nothing. @throws WorkerProblem */
  async pick(from: Triple, towards: Triple): Promise<Picked | null> {
    const { document, pin } = editorStore.getState();
    return this.mesh ? settled(this.pool.evaluator.pick(this.mesh.id, document, pin, from, towards)) : null;
  }

  /** The mode of opacity a person chose comes before the one the values suggest. */
  private showAppearance(): void {
    const { appearance, document } = editorStore.getState();
    if (appearance) this.stage?.setAppearance({ ...appearance, opacityMode: document.opacityMode ?? appearance.opacityMode });
  }

  private showLights(): void {
    const { document } = editorStore.getState();
    if (this.mesh) this.stage?.setLights(lightsOf(document), scaleOf(this.mesh.mesh));
    this.stage?.setSurroundings(document.surroundings ?? DEFAULT_SURROUNDINGS);
  }

  private feedMaps(): void {
    if (!this.mesh) return;
    if (this.stage?.mode === 'workers') return this.stage.touch();
    for (const demand of this.demands) this.stage?.setMap(demand.field, this.models.mapFor(this.mesh.id, demand.resolved));
    this.stage?.invalidate();
  }

  private requestSwatches(): void {
    if (this.evaluating) this.again = true;
    else void this.evaluateLatest();
  }

  private async evaluateLatest(): Promise<void> {
    this.evaluating = true;
    try {
      do {
        this.again = false;
        await this.evaluateOnce();
      } while (this.again);
    } finally {
      this.evaluating = false;
    }
  }

  private async evaluateOnce(): Promise<void> {
    const { document, path, camera } = editorStore.getState();
    this.images.request(document);
    if (!this.mesh || !camera) return;
    const model = this.mesh.id;
    try {
      const result = await settled(this.pool.evaluator.evaluate({ model, document, taps: boardTaps(document, path), camera: { ...camera, aspect: 1 }, size: SWATCH }));
      this.counts.evaluations++;
      this.counts.compilations = result.compilations;
      editorStore.setState({ taps: new Map(result.taps.map((tap) => [tap.key, tap])), kinds: result.kinds, appearance: result.appearance, readings: new Map(result.readings), problem: null });
      this.showAppearance();
      this.demands = result.demands;
      this.models.request(model, result.demands.map((demand) => demand.resolved));
      this.feedMaps();
    } catch (error) {
      // The new worker is asked as soon as it has the model.
      if (!isLost(error)) editorStore.setState({ problem: explain(error) });
    }
  }
}

/** What the interface needs to know of the model shown. */
function modelFacts(mesh: SurfaceMesh): ModelFacts {
  const names = mesh.attributes.map(({ name }) => name);
  return { scale: scaleOf(mesh), parts: mesh.partNames, attributes: names, sets: names.filter((name) => name.startsWith('uv ')) };
}

function explain(error: unknown): string {
  if (error instanceof WorkerProblem) return `${error.message} ${error.action}`.trim();
  return error instanceof Error ? error.message : String(error);
}
