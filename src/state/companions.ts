import { placeCompanions } from '../core/compile/companion-places';
import { listLights } from '../core/compile/lights';
import type { ModelBounds, Placement } from '../core/compile/model-scale';
import { getCompanions } from '../core/edit/companions';
import type { Companion, NetworkDocument } from '../core/graph/document';
import { isLost, unwrap } from '../workers/answer';
import { openMaterial } from '../contract/materials';
import { describeError, problemText } from '../core/base/problem';
import type { CompanionState } from './stage-state';
import type { StageFeed } from './stage-feed';
import { StageModelController } from './stage-model-controller';
import type { ShownModel, ShownNetwork, StageParts } from './stage-model-controller';

/** One companion: its model and, if it carries another material, that document. */
class CompanionModel {
  readonly controller: StageModelController;
  model: ShownModel | null = null;
  /**
   * Another material's network under the scene's lights; null while it carries the one being
   * edited.
   */
  private other: NetworkDocument | null = null;
  private underLights: NetworkDocument | null = null;
  private asked = '';
  private surveying = false;
  private again = false;
  /** Whether it was removed while something was on its way. */
  private gone = false;

  constructor(
    public companion: Companion,
    private readonly parts: StageParts,
    private readonly onMesh: () => void,
  ) {
    this.controller = new StageModelController(
      `beside ${companion.id}`,
      parts,
      () => this.network(),
      (error) => {
        if (error !== null) this.tellOfNetwork(error);
      },
    );
  }

  get isBusy(): boolean {
    return (
      this.controller.isBusy ||
      this.surveying ||
      (this.model === null && this.asked !== '' && this.state() === 'loading')
    );
  }

  private network(): ShownNetwork {
    const { document, view } = this.parts.stores;
    const edited = document.getState().document;
    if (!this.other) return { document: edited, pin: view.getState().pin };
    const lights = listLights(edited);
    if (this.underLights?.lights !== lights) this.underLights = { ...this.other, lights };
    return { document: this.underLights, pin: null };
  }

  private state(): CompanionState['state'] | undefined {
    const { companionStates } = this.parts.stores.stage.getState();
    return companionStates.get(this.companion.id)?.state;
  }
  private report(error: unknown): void {
    const state: CompanionState = { state: 'failed', message: problemText(describeError(error)) };
    this.say(state);
  }
  /** What is wrong with the network being edited is said beside the current model. */
  private tellOfNetwork(error: unknown): void {
    if (this.companion.material !== undefined) this.report(error);
  }
  private say(state: CompanionState): void {
    if (this.gone) return;
    const { stage } = this.parts.stores;
    const { companionStates } = stage.getState();
    stage.setState({
      companionStates: new Map([...companionStates, [this.companion.id, state]]),
    });
  }

  /** Fetches what the companion names, when that changed. */
  async follow(companion: Companion): Promise<void> {
    this.companion = companion;
    const wanted = `${companion.model} ${companion.material ?? ''}`;
    if (wanted === this.asked) return;
    this.asked = wanted;
    this.say({ state: 'loading' });
    try {
      const [model, other] = await Promise.all([
        this.parts.models
          .load(companion.model, companion.name)
          .then(({ id, facts }) => ({ id, facts })),
        companion.material === undefined
          ? null
          : this.parts.client.read(openMaterial, { params: { id: companion.material } }),
      ]);
      if (this.gone || this.asked !== wanted) return;
      this.model = model;
      this.other = other?.document ?? null;
      this.underLights = null;
      this.say({ state: 'ready' });
      this.onMesh();
      this.survey();
    } catch (error) {
      if (this.asked === wanted) this.report(error);
    }
  }

  place(placement: Placement, current: ModelBounds): void {
    if (this.model) this.controller.show({ ...this.model, frame: { placement, current } });
  }

  /**
   * Works out which maps the network reads on this model, and what its surface needs of the stage.
   */
  survey(): void {
    if (this.surveying) this.again = true;
    else void this.surveyLatest();
  }

  private async surveyLatest(): Promise<void> {
    this.surveying = true;
    try {
      do {
        this.again = false;
        const shownNetwork = this.network(),
          shown = this.controller.shown;
        if (!shown?.frame || this.gone) break;
        this.parts.images.request(shownNetwork.document);
        const { demands, appearance } = await unwrap(
          this.parts.pool.evaluator.survey(
            shown.id,
            shownNetwork.document,
            shownNetwork.pin,
            shown.frame,
          ),
        );
        if (this.gone) break;
        this.controller.demands = demands;
        this.parts.models.request(
          this.companion.id,
          shown.id,
          this.parts.images.isWorking ? demands.filter(({ detail }) => !detail) : demands,
        );
        this.controller.appear({
          ...appearance,
          opacityMode: shownNetwork.document.opacityMode ?? appearance.opacityMode,
        });
        this.controller.bindMaps();
      } while (this.again);
    } catch (error) {
      if (!isLost(error)) this.tellOfNetwork(error);
    } finally {
      this.surveying = false;
    }
  }

  close(): void {
    this.gone = true;
    this.controller.detach();
    this.parts.models.request(this.companion.id, '', []);
    this.parts.pool.tellAll((worker) => worker.leave(`beside ${this.companion.id}`));
    const { stage } = this.parts.stores;
    const others = [...stage.getState().companionStates].filter(([id]) => id !== this.companion.id);
    stage.setState({ companionStates: new Map(others) });
  }
}

/** The models that stand beside the current one, as the document has them. */
export class StageCompanions {
  private readonly present = new Map<string, CompanionModel>();
  private stage: StageFeed | null = null;
  private current: ModelBounds | null = null;

  constructor(
    private readonly parts: StageParts,
    private readonly onScene: () => void,
  ) {}

  get isBusy(): boolean {
    return [...this.present.values()].some((each) => each.isBusy);
  }

  /** Those that are on the stage, with their places. */
  get placed(): readonly { readonly bounds: ModelBounds; readonly placement: Placement }[] {
    return [...this.present.values()].flatMap(({ controller: { shown } }) =>
      shown?.frame ? [{ bounds: shown.facts, placement: shown.frame.placement }] : [],
    );
  }

  attach(stage: StageFeed): void {
    this.stage = stage;
    for (const each of this.present.values()) each.controller.attach(stage);
  }
  detach(): void {
    for (const each of this.present.values()) each.controller.detach();
    this.stage = null;
  }

  /** The document or the current model changed. */
  follow(document: NetworkDocument, current: ModelBounds | null): void {
    this.current = current;
    const { models } = getCompanions(document);
    for (const [id, each] of this.present)
      if (!models.some((companion) => companion.id === id)) {
        each.close();
        this.present.delete(id);
      }
    for (const companion of models) {
      let each = this.present.get(companion.id);
      if (!each) {
        each = new CompanionModel(companion, this.parts, () => {
          this.place();
        });
        this.present.set(companion.id, each);
        if (this.stage) each.controller.attach(this.stage);
      }
      void each.follow(companion);
    }
    this.place();
  }

  private place(): void {
    const { current } = this;
    if (!current) return;
    const { models, sizes } = getCompanions(this.parts.stores.document.getState().document);
    const ready = models.flatMap((companion) => {
      const each = this.present.get(companion.id);
      return each?.model ? [{ each, facts: each.model.facts }] : [];
    });
    placeCompanions(
      current,
      ready.map(({ each, facts }) => ({ bounds: facts, turn: each.companion.turn })),
      sizes,
    ).forEach((placement, k) => {
      ready[k]?.each.place(placement, current);
    });
    this.onScene();
  }

  /**
   * The network being edited changed, or what is pinned; `isRelit`: the lights did, which other
   * networks see, too.
   */
  update(isRelit: boolean): void {
    for (const each of this.present.values()) {
      if (each.companion.material !== undefined && !isRelit) continue;
      each.controller.update();
      each.survey();
    }
  }
  mapsChanged(): void {
    for (const each of this.present.values()) {
      each.controller.mapsChanged();
      each.survey();
    }
  }
  imagesChanged(): void {
    for (const each of this.present.values()) {
      each.controller.update();
      each.survey();
    }
  }
  renew(): void {
    for (const each of this.present.values()) each.controller.renew();
  }
}
