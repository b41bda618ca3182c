import type { ModelId } from '../core/base/ids';
import { describeError } from '../core/base/problem';
import { boundsOfAll } from '../core/compile/companion-places';
import { listLights } from '../core/compile/lights';
import { framingCamera } from '../core/evaluate/camera';
import type { NestedDemand } from '../core/evaluate/session';
import { DEFAULT_SURROUNDINGS } from '../core/graph/document';
import { unwrap } from '../workers/answer';
import { decodeApart } from '../workers/decode-apart';
import { WorkerPool } from '../workers/pool';
import { client } from './client';
import { systemClock, untilCalm } from './clock';
import { StageCompanions } from './companions';
import type { EditorParts } from './editor-parts';
import { FindingsKeeper } from './findings';
import { StageImages } from './images';
import { rangeOfLook } from './looks';
import { modelFacts } from './model-facts';
import { PictureWatch } from './picture-age';
import { isOtherSight } from './stage-feed';
import type { StageFeed } from './stage-feed';
import { StageModelController } from './stage-model-controller';
import { StageModels } from './stage-models';
import { StageQuestions } from './stage-questions';
import { stores } from './stores';
import type { DocumentState, StageLook, ViewState } from './stores';
import { SwatchRequests } from './swatches';

type Decode = ConstructorParameters<typeof StageImages>[1];

/** Ways of looking that follow the range of what is pinned. */
const STRETCHED: ReadonlySet<StageLook> = new Set(['exaggerated', 'signed']);

type CountName = 'stagePrograms' | 'fills' | 'evaluations' | 'compilations';
/**
 * Follows the open document: keeps the stage's program and values, the swatches, the mesh maps and
 * the findings up to date.
 */
export class Evaluation {
  readonly models: StageModels;
  readonly images: StageImages;
  readonly findings: FindingsKeeper;
  readonly questions: StageQuestions;
  private readonly current: StageModelController;
  private readonly companions: StageCompanions;
  private stage: StageFeed | null = null;
  private readonly swatches: SwatchRequests;
  private readonly age: PictureWatch;
  private readonly stops: (() => void)[];

  constructor(
    private readonly parts: EditorParts,
    decode: Decode = decodeApart,
  ) {
    this.models = new StageModels(parts);
    this.images = new StageImages(parts, decode);
    this.findings = new FindingsKeeper((document) => {
      const { background, documents } = parts.pool;
      return unwrap(background.check(documents.bring(background, document)));
    }, parts.stores);
    const stageParts = { ...parts, models: this.models, images: this.images };
    this.current = new StageModelController(
      'current',
      stageParts,
      () => ({
        document: parts.stores.document.getState().document,
        pin: parts.stores.view.getState().pin,
      }),
      (error) => {
        const problem = error === null ? null : describeError(error);
        parts.stores.results.setState({ problem });
      },
    );
    this.companions = new StageCompanions(stageParts, () => {
      this.showScene();
    });
    this.questions = new StageQuestions(parts, () => this.current.shown);
    this.swatches = new SwatchRequests(parts, this.images, {
      shown: () => this.current.shown,
      onAppearance: () => {
        this.showAppearance();
      },
      onDemands: (shown, demands) => {
        if (this.current.shown !== shown) return;
        this.current.demands = demands;
        this.models.request('current', shown.id, this.ready(demands));
        this.current.bindMaps();
      },
    });
    this.age = new PictureWatch(
      parts.clock,
      () => this.stage === null || this.current.isBusy || this.stage.isBusy || !this.isToldOf,
      (pictureAge, pictureSeconds) => {
        const { hasDrawn } = parts.stores.stage.getState();
        parts.stores.stage.setState({
          pictureAge,
          pictureSeconds,
          hasDrawn: hasDrawn || pictureAge === 'current',
        });
      },
    );
    this.stops = this.follow();
    this.findings.request();
  }

  /** Does what each change of a store asks for. @returns how to stop */
  private follow(): (() => void)[] {
    const { stores: followed, pool } = this.parts;
    return [
      followed.document.subscribe((state, before) => {
        if (state.document !== before.document) this.documentChanged(state, before);
      }),
      followed.view.subscribe((state, before) => {
        this.viewChanged(state, before);
      }),
      followed.results.subscribe((state, before) => {
        if (state.images !== before.images) this.findings.imagesChanged();
        const { look } = followed.view.getState();
        if (STRETCHED.has(look) && state.taps !== before.taps) this.showLook();
      }),
      this.models.onMaps(() => {
        this.age.changed();
        this.current.mapsChanged();
        this.companions.mapsChanged();
        this.swatches.renew();
      }),
      pool.onReplaced(() => {
        this.current.renew();
        this.companions.renew();
        this.findings.request();
      }),
      this.images.onImages(() => {
        this.age.changed();
        this.current.update();
        this.companions.imagesChanged();
        this.swatches.renew();
      }),
    ];
  }

  private documentChanged({ document }: DocumentState, { document: before }: DocumentState): void {
    this.findings.request();
    this.age.changed();
    const isRelit = document.lights !== before.lights;
    this.current.update();
    this.companions.update(isRelit);
    if (document.companions !== before.companions)
      this.companions.follow(document, this.current.shown?.facts ?? null);
    if (document.opacityMode !== before.opacityMode) this.showAppearance();
    if (isRelit || document.surroundings !== before.surroundings) this.showLights();
    this.swatches.request();
  }

  private viewChanged(state: ViewState, before: ViewState): void {
    const isPinned = state.pin !== before.pin;
    if (isPinned) {
      this.age.changed();
      this.current.update();
      this.companions.update(false);
      this.swatches.readPinned();
    }
    if (isPinned || state.look !== before.look) this.showLook();
    if (isOtherSight(state, before)) this.stage?.setSight(state);
    if (state.path !== before.path || state.camera !== before.camera) this.swatches.renew();
    else if (state.inView !== before.inView || state.pictureSide !== before.pictureSide)
      this.swatches.request();
  }

  get pool(): WorkerPool {
    return this.parts.pool;
  }

  /** Whether it is known what the surface needs of the stage, or a value is shown in its place. */
  private get isToldOf(): boolean {
    const { view, results } = this.parts.stores;
    return view.getState().pin !== null || results.getState().appearance !== null;
  }

  /** Counters for tests and benchmarks. */
  get counts(): Readonly<Record<CountName, number>> {
    return { ...this.current.counts, ...this.swatches.counts };
  }

  attach(stage: StageFeed): () => void {
    this.stage = stage;
    this.current.attach(stage);
    this.companions.attach(stage);
    this.showScene();
    this.showLights();
    this.showAppearance();
    this.showLook();
    stage.setSight(this.parts.stores.view.getState());
    this.parts.stores.stage.setState({ hasDrawn: false });
    this.age.changed();
    return () => {
      if (this.stage !== stage) return;
      this.current.detach();
      this.companions.detach();
      this.stage = null;
    };
  }

  close(): void {
    this.age.close();
    for (const stop of this.stops) stop();
    this.pool.close();
  }

  /** Shows a model on the stage. @returns what was noticed when it was read @throws ApiFailure */
  async show(id: ModelId, name: string): Promise<readonly string[]> {
    const loaded = await this.models.load(id, name);
    const { facts } = loaded;
    this.parts.stores.view.setState({ camera: framingCamera(facts.centre, facts.size) });
    this.parts.stores.stage.setState({ model: modelFacts(facts) });
    this.current.show({ id, facts });
    this.companions.follow(this.parts.stores.document.getState().document, facts);
    this.showLights();
    this.swatches.renew();
    return loaded.notes;
  }

  /** Whether nothing is left to measure, to evaluate or to draw. */
  get isIdle(): boolean {
    return (
      this.current.shown !== null &&
      !this.swatches.isBusy &&
      !this.current.isBusy &&
      !this.companions.isBusy &&
      !this.models.isWorking &&
      !this.images.isWorking &&
      !(this.stage?.isBusy ?? true)
    );
  }

  /** Resolves once nothing is left to do, and nothing follows from what was done. */
  whenIdle(): Promise<void> {
    return untilCalm(() => this.isIdle, this.parts.clock);
  }

  /** What stands on the stage changed: what is framed, and where shadows fall. */
  private showScene(): void {
    const facts = this.current.shown?.facts;
    const { placed } = this.companions;
    if (facts)
      this.stage?.setScene(
        facts,
        placed.length === 0
          ? { centre: facts.centre, size: facts.size }
          : boundsOfAll(facts, placed),
      );
  }

  private showLook(): void {
    const { look, pin } = this.parts.stores.view.getState();
    const { taps } = this.parts.stores.results.getState();
    this.stage?.setLook(look, rangeOfLook(look, pin === null ? undefined : taps.get(pin)));
  }

  /** The mode of opacity a person chose comes before the one the values suggest. */
  private showAppearance(): void {
    const { appearance } = this.parts.stores.results.getState();
    const { document } = this.parts.stores.document.getState();
    if (appearance)
      this.current.appear({
        ...appearance,
        opacityMode: document.opacityMode ?? appearance.opacityMode,
      });
  }

  private showLights(): void {
    const { document } = this.parts.stores.document.getState();
    this.stage?.setLights(listLights(document));
    this.stage?.setSurroundings(document.surroundings ?? DEFAULT_SURROUNDINGS);
  }

  /** Normals that come out of images are measured when these are there. */
  private ready(demands: readonly NestedDemand[]): readonly NestedDemand[] {
    return this.images.isWorking ? demands.filter(({ detail }) => !detail) : demands;
  }
}

/** The evaluation of the page's own editor, with workers of its own. */
export const startEvaluation = (): Evaluation =>
  new Evaluation({ stores, client, clock: systemClock, pool: new WorkerPool() });
