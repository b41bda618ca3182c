import { placeCompanions } from '../core/compile/companion-places';
import { lightsOf } from '../core/compile/lights';
import type { ModelBounds, Placing } from '../core/compile/model-scale';
import { companionsOf } from '../core/edit/companions';
import type { Companion, NetworkDocument } from '../core/graph/document';
import { isLost, settled } from '../workers/answer';
import { openMaterial } from '../contract/materials';
import { describeError, problemText } from '../core/base/problem';
import { read } from './query-client';
import { editorStore } from './editor-store';
import type { StageFeed } from './stage-feed';
import { StageSubject } from './stage-subject';
import type { Carried, Shown, StageKit } from './stage-subject';

/** How a model beside the current one is doing: why it cannot be shown, or nothing. */
export type CompanionState =
  | { readonly state: 'loading' }
  | { readonly state: 'ready' }
  | { readonly state: 'failed'; readonly message: string };

/** One companion: its model and, if it carries another material, that document. */
class Beside {
  readonly subject: StageSubject;
  model: Shown | null = null;
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
    private readonly kit: StageKit,
    private readonly onMesh: () => void,
  ) {
    this.subject = new StageSubject(
      `beside ${companion.id}`,
      kit,
      () => this.carried(),
      (error) => {
        if (error !== null) this.tellOfNetwork(error);
      },
    );
  }

  get isBusy(): boolean {
    return (
      this.subject.isBusy ||
      this.surveying ||
      (this.model === null && this.asked !== '' && this.state() === 'loading')
    );
  }

  private carried(): Carried {
    const { document, pin } = editorStore.getState();
    if (!this.other) return { document, pin };
    if (!this.underLights || this.underLights.lights !== lightsOf(document))
      this.underLights = { ...this.other, lights: lightsOf(document) };
    return { document: this.underLights, pin: null };
  }

  private state(): CompanionState['state'] | undefined {
    return editorStore.getState().companionStates.get(this.companion.id)?.state;
  }
  private tell(error: unknown): void {
    const state: CompanionState = { state: 'failed', message: problemText(describeError(error)) };
    this.say(state);
  }
  /** What is wrong with the network being edited is said beside the current model. */
  private tellOfNetwork(error: unknown): void {
    if (this.companion.material !== undefined) this.tell(error);
  }
  private say(state: CompanionState): void {
    if (!this.gone)
      editorStore.setState({
        companionStates: new Map([
          ...editorStore.getState().companionStates,
          [this.companion.id, state],
        ]),
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
        this.kit.models
          .load(companion.model, companion.name)
          .then(({ id, facts }) => ({ id, facts })),
        companion.material === undefined
          ? null
          : read(openMaterial, { params: { id: companion.material } }),
      ]);
      if (this.gone || this.asked !== wanted) return;
      this.model = model;
      this.other = other?.document ?? null;
      this.underLights = null;
      this.say({ state: 'ready' });
      this.onMesh();
      this.survey();
    } catch (error) {
      if (this.asked === wanted) this.tell(error);
    }
  }

  place(placing: Placing, current: ModelBounds): void {
    if (this.model) this.subject.show({ ...this.model, standing: { placing, current } });
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
        const carried = this.carried(),
          shown = this.subject.shown;
        if (!shown?.standing || this.gone) break;
        this.kit.images.request(carried.document);
        const { demands, appearance } = await settled(
          this.kit.pool.evaluator.survey(shown.id, carried.document, carried.pin, shown.standing),
        );
        if (this.gone) break;
        this.subject.demands = demands;
        this.kit.models.request(
          this.companion.id,
          shown.id,
          this.kit.images.isWorking ? demands.filter(({ detail }) => !detail) : demands,
        );
        this.subject.model?.setAppearance({
          ...appearance,
          opacityMode: carried.document.opacityMode ?? appearance.opacityMode,
        });
        this.subject.bindMaps();
      } while (this.again);
    } catch (error) {
      if (!isLost(error)) this.tellOfNetwork(error);
    } finally {
      this.surveying = false;
    }
  }

  close(): void {
    this.gone = true;
    this.subject.detach();
    this.kit.models.request(this.companion.id, '', []);
    this.kit.pool.tellAll((worker) => worker.leave(`beside ${this.companion.id}`));
    editorStore.setState({
      companionStates: new Map(
        [...editorStore.getState().companionStates].filter(([id]) => id !== this.companion.id),
      ),
    });
  }
}

/** The models that stand beside the current one, as the document has them. */
export class CompanionKeeper {
  private readonly present = new Map<string, Beside>();
  private stage: StageFeed | null = null;
  private current: ModelBounds | null = null;

  constructor(
    private readonly kit: StageKit,
    private readonly onScene: () => void,
  ) {}

  get isBusy(): boolean {
    return [...this.present.values()].some((each) => each.isBusy);
  }

  /** Those that are on the stage, with their places. */
  get standing(): readonly { readonly bounds: ModelBounds; readonly placing: Placing }[] {
    return [...this.present.values()].flatMap(({ subject: { shown } }) =>
      shown?.standing ? [{ bounds: shown.facts, placing: shown.standing.placing }] : [],
    );
  }

  attach(stage: StageFeed): void {
    this.stage = stage;
    for (const each of this.present.values()) each.subject.attach(stage);
  }
  detach(): void {
    for (const each of this.present.values()) each.subject.detach();
    this.stage = null;
  }

  /** The document or the current model changed. */
  follow(document: NetworkDocument, current: ModelBounds | null): void {
    this.current = current;
    const { models } = companionsOf(document);
    for (const [id, each] of this.present)
      if (!models.some((companion) => companion.id === id)) {
        each.close();
        this.present.delete(id);
      }
    for (const companion of models) {
      let each = this.present.get(companion.id);
      if (!each) {
        each = new Beside(companion, this.kit, () => {
          this.place();
        });
        this.present.set(companion.id, each);
        if (this.stage) each.subject.attach(this.stage);
      }
      void each.follow(companion);
    }
    this.place();
  }

  private place(): void {
    const { current } = this;
    if (!current) return;
    const { models, sizes } = companionsOf(editorStore.getState().document);
    const ready = models.flatMap((companion) => {
      const each = this.present.get(companion.id);
      return each?.model ? [{ each, facts: each.model.facts }] : [];
    });
    placeCompanions(
      current,
      ready.map(({ each, facts }) => ({ bounds: facts, turn: each.companion.turn })),
      sizes,
    ).forEach((placing, k) => {
      ready[k]?.each.place(placing, current);
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
      each.subject.update();
      each.survey();
    }
  }
  mapsChanged(): void {
    for (const each of this.present.values()) {
      each.subject.mapsChanged();
      each.survey();
    }
  }
  imagesChanged(): void {
    for (const each of this.present.values()) {
      each.subject.update();
      each.survey();
    }
  }
  renew(): void {
    for (const each of this.present.values()) each.subject.renew();
  }
}
