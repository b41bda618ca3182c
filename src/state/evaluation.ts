import { describeError } from '../core/base/problem';
import { boundsOfAll } from '../core/compile/companion-places';
import { describePorts } from '../core/compile/catalogue';
import { lightsOf } from '../core/compile/lights';
import { networkOf } from '../core/edit/board';
import { watchedKeys } from '../core/evaluate/advice';
import { framingCamera } from '../core/evaluate/camera';
import { scaleOf } from '../core/evaluate/session';
import type { NestedDemand } from '../core/evaluate/session';
import { DEFAULT_SURROUNDINGS } from '../core/graph/document';
import type { NetworkDocument, Triple } from '../core/graph/document';
import type { MeshFacts } from '../core/mesh/mesh-facts';
import type { Picked } from '../core/evaluate/pick';
import { isLost, settled } from '../workers/answer';
import { WorkerPool } from '../workers/pool';
import { CompanionKeeper } from './companions';
import { boardAt, editorStore, keyOf } from './editor-store';
import type { ModelFacts } from './editor-store';
import { FindingsKeeper } from './findings';
import { ImageKeeper } from './images';
import { keptTaps } from './kept-taps';
import { stretchOf } from './looks';
import { ModelKeeper } from './models';
import type { StageFeed } from './stage-feed';
import { StageSubject } from './stage-subject';

const SWATCH = 96;

/**
 * The first output of every node of a board, and the values arriving at ramps: what the cards and
 * histograms show.
 */
export function boardTaps(document: NetworkDocument, path: readonly string[]): readonly string[] {
  const network = networkOf(document, boardAt(document, path));
  return network.nodes.flatMap((node) => {
    const output = describePorts(document, node)?.outputs[0];
    const arriving = watchedKeys({ document, network, path, node });
    return output ? [keyOf(path, node.id, output.id), ...arriving] : arriving;
  });
}

/**
 * Follows the open document: keeps the stage's program and values, the swatches and the mesh maps
 * up to date.
 */
export class Evaluation {
  readonly pool = new WorkerPool();
  readonly models = new ModelKeeper(this.pool);
  readonly images = new ImageKeeper(this.pool);
  private readonly current = new StageSubject(
    'current',
    this,
    () => editorStore.getState(),
    (error) => {
      editorStore.setState({ problem: error === null ? null : describeError(error) });
    },
  );
  private readonly companions = new CompanionKeeper(this, () => {
    this.showScene();
  });
  readonly findings = new FindingsKeeper({
    check: (document) => settled(this.pool.background.check(document)),
    document: () => editorStore.getState().document,
    images: () => editorStore.getState().images,
  });
  private stage: StageFeed | null = null;
  private evaluating = false;
  private again = false;
  private readonly undo: (() => void)[];
  private readonly counted = { evaluations: 0, compilations: 0 };

  constructor() {
    this.undo = [
      editorStore.subscribe((state, before) => {
        if (state.document !== before.document) this.findings.request();
        if (state.images !== before.images) this.findings.imagesChanged();
        if (state.document !== before.document || state.pin !== before.pin) {
          this.current.update();
          this.companions.update(state.document.lights !== before.document.lights);
        }
        if (state.document.companions !== before.document.companions)
          this.companions.follow(state.document, this.current.shown?.facts ?? null);
        if (state.document.opacityMode !== before.document.opacityMode) this.showAppearance();
        if (
          state.document.lights !== before.document.lights ||
          state.document.surroundings !== before.document.surroundings
        )
          this.showLights();
        if (
          state.look !== before.look ||
          state.pin !== before.pin ||
          (state.look === 'exaggerated' && state.taps !== before.taps)
        )
          this.showLook();
        if (
          state.document !== before.document ||
          state.path !== before.path ||
          state.camera !== before.camera
        )
          this.requestSwatches();
      }),
      this.models.onMaps(() => {
        this.current.mapsChanged();
        this.companions.mapsChanged();
        this.requestSwatches();
      }),
      this.pool.onReplaced(() => {
        this.current.renew();
        this.companions.renew();
        this.findings.request();
      }),
      this.images.onImages(() => {
        this.current.update();
        this.companions.imagesChanged();
        this.requestSwatches();
      }),
    ];
    this.findings.request();
  }

  /** Counters for tests and benchmarks. */
  get counts(): {
    readonly stagePrograms: number;
    readonly fills: number;
    readonly evaluations: number;
    readonly compilations: number;
  } {
    return { ...this.current.counts, ...this.counted };
  }

  attach(stage: StageFeed): () => void {
    this.stage = stage;
    this.current.attach(stage);
    this.companions.attach(stage);
    this.showScene();
    this.showLights();
    this.showAppearance();
    this.showLook();
    return () => {
      if (this.stage !== stage) return;
      this.current.detach();
      this.companions.detach();
      this.stage = null;
    };
  }

  close(): void {
    for (const stop of this.undo) stop();
    this.pool.close();
  }

  async show(id: string, name: string): Promise<readonly string[]> {
    const loaded = await this.models.load(id, name);
    editorStore.setState({
      camera: framingCamera(loaded.facts.centre, loaded.facts.size),
      model: modelFacts(loaded.facts),
    });
    this.current.show({ id, facts: loaded.facts });
    this.companions.follow(editorStore.getState().document, loaded.facts);
    this.showLights();
    this.requestSwatches();
    return loaded.notes;
  }

  /** Whether nothing is left to measure, to evaluate or to draw. */
  get isIdle(): boolean {
    return (
      this.current.shown !== null &&
      !this.evaluating &&
      !this.current.isBusy &&
      !this.companions.isBusy &&
      !this.models.isWorking &&
      !this.images.isWorking &&
      !(this.stage?.isBusy ?? true)
    );
  }

  /** What stands on the stage changed: what is framed, and where shadows fall. */
  private showScene(): void {
    const facts = this.current.shown?.facts;
    const { standing } = this.companions;
    if (facts)
      this.stage?.setScene(
        facts,
        standing.length === 0
          ? { centre: facts.centre, size: facts.size }
          : boundsOfAll(facts, standing),
      );
  }

  private showLook(): void {
    const { look, pin, taps } = editorStore.getState();
    const stretch = pin === null ? null : stretchOf(taps.get(pin));
    this.stage?.setLook(look, stretch === null || stretch === 'constant' ? [0, 1] : stretch);
  }

  /**
   * What a ray from the eye meets on the model; null where that is nothing. @throws WorkerProblem
   */
  async pick(from: Triple, towards: Triple): Promise<Picked | null> {
    const { document, pin } = editorStore.getState();
    const { shown } = this.current;
    return shown ? settled(this.pool.evaluator.pick(shown.id, document, pin, from, towards)) : null;
  }

  /** The mode of opacity a person chose comes before the one the values suggest. */
  private showAppearance(): void {
    const { appearance, document } = editorStore.getState();
    if (appearance)
      this.current.model?.setAppearance({
        ...appearance,
        opacityMode: document.opacityMode ?? appearance.opacityMode,
      });
  }

  private showLights(): void {
    const { document } = editorStore.getState();
    this.stage?.setLights(lightsOf(document));
    this.stage?.setSurroundings(document.surroundings ?? DEFAULT_SURROUNDINGS);
  }

  /** Normals that come out of images are measured when these are there. */
  private ready(demands: readonly NestedDemand[]): readonly NestedDemand[] {
    return this.images.isWorking ? demands.filter(({ detail }) => !detail) : demands;
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
    const { shown } = this.current;
    if (!shown || !camera) return;
    const model = shown.id;
    try {
      const result = await settled(
        this.pool.evaluator.evaluate({
          model,
          document,
          taps: boardTaps(document, path),
          camera: { ...camera, aspect: 1 },
          size: SWATCH,
        }),
      );
      this.counted.evaluations++;
      this.counted.compilations = result.compilations;
      editorStore.setState({
        taps: keptTaps(editorStore.getState().taps, result.taps),
        kinds: result.kinds,
        appearance: result.appearance,
        readings: new Map(result.readings),
        problem: null,
      });
      this.showAppearance();
      if (this.current.shown !== shown) return;
      this.current.demands = result.demands;
      this.models.request('current', model, this.ready(result.demands));
      this.current.bindMaps();
    } catch (error) {
      // The new worker is asked as soon as it has the model.
      if (!isLost(error)) editorStore.setState({ problem: describeError(error) });
    }
  }
}

/** What the interface needs to know of the model shown. */
function modelFacts(facts: MeshFacts): ModelFacts {
  const names = facts.attributes.map(({ name }) => name);
  return {
    scale: scaleOf(facts),
    parts: facts.partNames,
    attributes: names,
    sets: names.filter((name) => name.startsWith('uv ')),
  };
}
