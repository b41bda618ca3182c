import * as Comlink from 'comlink';
import { structureKey } from '../core/compile/structure';
import { bindImages, imageDemands } from '../core/compile/images';
import { IDENTITY_PLACEMENT } from '../core/compile/model-scale';
import type { CompanionFrame } from '../core/compile/model-scale';
import { writeUniforms } from '../core/compile/uniforms';
import { getModelScale } from '../core/evaluate/map-demands';
import type { NetworkDocument } from '../core/graph/document';
import type { SampleExtent } from '../core/mesh/sample-points';
import type { MeshFacts } from '../core/mesh/mesh-facts';
import type { Appearance } from '../core/surface/stage-layout';
import type { StageProgram } from '../core/evaluate/stage-program';
import type { ResolvedDemand } from '../core/evaluate/map-demands';
import { isLost, unwrap } from '../workers/answer';
import type { EditorParts } from './editor-parts';
import type { FillParts } from './fill-parts';
import type { StageImages } from './images';
import type { StageModels } from './stage-models';
import type { ModelFeed, StageFeed } from './stage-feed';
import { ThrownShadow } from './thrown-shadow';

/** What controllers of models on the stage work with. */
export interface StageParts extends EditorParts {
  readonly models: StageModels;
  readonly images: StageImages;
}
/** The network a model is shown with, and the output of it that is pinned. */
export interface ShownNetwork {
  readonly document: NetworkDocument;
  readonly pin: string | null;
}
/** A model that is shown, by its id; where it stands when it is not the current one. */
export interface ShownModel {
  readonly id: string;
  readonly facts: MeshFacts;
  readonly frame?: CompanionFrame;
}

/** Before a worker that ended is asked again, milliseconds. */
const AGAIN = 300;

/**
 * One model on the stage with the network it carries: keeps its program, values and maps up to
 * date.
 */
export class StageModelController {
  shown: ShownModel | null = null;
  private asked: readonly ResolvedDemand[] | null = null;
  /** Fields of the program that got a map, of these settings or of earlier ones. */
  private readonly bound = new Set<string>();
  private stage: StageFeed | null = null;
  private feed: ModelFeed | null = null;
  private program: { key: string; program: StageProgram } | null = null;
  private preparing = '';
  private presenting = 0;
  /** Counters for tests and benchmarks. */
  readonly counts = { stagePrograms: 0, fills: 0 };
  private readonly shadow: ThrownShadow;

  constructor(
    private readonly name: string,
    private readonly parts: StageParts,
    private readonly network: () => ShownNetwork | null,
    private readonly onProblem: (error: unknown) => void,
  ) {
    this.shadow = new ThrownShadow(parts.pool, (opacity) => this.feed?.setShadow(opacity));
  }

  get isBusy(): boolean {
    return this.preparing !== '' || this.presenting > 0 || this.shadow.isBusy;
  }
  get model(): ModelFeed | null {
    return this.feed;
  }

  /** The maps the network reads on the model; none as long as that was not told. */
  get demands(): readonly ResolvedDemand[] {
    return this.asked ?? [];
  }
  set demands(demands: readonly ResolvedDemand[]) {
    this.asked = demands;
  }

  attach(stage: StageFeed): void {
    this.stage = stage;
    this.feed = stage.add(this.name, (...asked) => this.fill(...asked));
    void this.present();
    this.renew();
  }

  /** The renderer is gone, or this model leaves it. */
  detach(): void {
    this.stage?.remove(this.name);
    this.stage = this.feed = null;
  }

  show(shown: ShownModel): void {
    const isSame = this.shown?.facts === shown.facts;
    this.shown = shown;
    if (isSame) this.feed?.setPlacement(shown.frame?.placement ?? IDENTITY_PLACEMENT);
    else {
      this.asked = null;
      this.bound.clear();
      void this.present();
    }
    this.update();
  }

  /** Has the model laid out for drawing, which a worker does, and puts it on the stage. */
  private async present(): Promise<void> {
    const { feed, shown, stage } = this;
    if (!feed || !shown || !stage) return;
    const { id, facts } = shown;
    this.presenting++;
    try {
      const { port1, port2 } = new MessageChannel();
      feed.setModel(port2, shown.frame?.placement ?? IDENTITY_PLACEMENT);
      await this.parts.models.loader.layOut(id, stage.mode === 'program', port1);
      if (this.feed !== feed || this.shown?.facts !== facts) return;
      this.bindMaps();
      this.update();
    } catch (error) {
      if (isLost(error))
        this.parts.clock.after(AGAIN, () => {
          void this.present();
        });
      else this.onProblem(error);
    } finally {
      this.presenting--;
    }
  }

  /** What the surface needs of the stage, and how dense a shadow it throws. */
  appear(appearance: Appearance): void {
    this.feed?.setAppearance(appearance);
    const shownNetwork = this.network();
    const isShaded = this.feed && this.shown && shownNetwork?.pin === null;
    const caster =
      isShaded && this.shown
        ? {
            model: this.shown.id,
            document: shownNetwork.document,
            isOpen: this.isOpenDocument(shownNetwork.document),
          }
        : null;
    this.shadow.follow(caster, appearance);
  }

  /** Has the program recomputed: another stage, or another worker. */
  renew(): void {
    this.program = null;
    this.preparing = '';
    this.update();
  }

  /** Values go to the stage at once; only a change of structure needs another program. */
  update(): void {
    const shownNetwork = this.network();
    if (!this.stage || !this.feed || !this.shown || !shownNetwork) return;
    if (this.stage.mode === 'workers') return this.feed.touch();
    const { document, pin } = shownNetwork;
    const key = `${structureKey(document)} ${pin ?? ''}`;
    if (this.program?.key === key) {
      const { bindings, uniformCount, imageSlots } = this.program.program;
      const values = writeUniforms(
        document,
        bindings,
        uniformCount,
        getModelScale(this.shown.facts, this.shown.frame),
      );
      const wanted = imageDemands(imageSlots, document);
      bindImages(wanted, values, (hash, reading) =>
        this.parts.images.sheetAtHand(hash, reading),
      ).forEach((sheet, slot) => {
        this.feed?.setImage(slot, sheet);
      });
      this.feed.setValues(values);
      this.tellKnown();
      void this.parts.images.bring(wanted).then((isNew) => {
        if (isNew) this.update();
      });
      this.stage.invalidate();
    } else if (this.preparing !== key) {
      this.preparing = key;
      this.feed.expectProgram();
      void this.prepare(key, shownNetwork);
    } else this.feed.touch();
  }

  private async prepare(key: string, { document, pin }: ShownNetwork): Promise<void> {
    try {
      const { evaluator, documents } = this.parts.pool;
      const named = documents.bring(evaluator, document);
      const program = await unwrap(evaluator.prepareStage(named, pin, this.stage?.targets));
      if (this.preparing !== key) return;
      this.program = { key, program };
      this.counts.stagePrograms++;
      this.feed?.setProgram(program);
      this.onProblem(null);
      this.bindMaps();
      this.update();
    } catch (error) {
      // The stage keeps its last picture.
      if (!isLost(error)) this.onProblem(error);
    } finally {
      if (this.preparing === key) this.preparing = '';
    }
  }

  /** A map arrived: everything is computed again, once. */
  mapsChanged(): void {
    if (this.stage?.mode === 'workers') this.feed?.touch();
    else this.bindMaps();
  }

  /** Gives the graphics processor the maps there are; workers find them by themselves. */
  bindMaps(): void {
    if (!this.shown || !this.feed || this.stage?.mode === 'workers') return;
    for (const { field, resolved } of this.demands) {
      const map = field === '' ? null : this.parts.models.mapFor(this.shown.id, resolved);
      // Until a map with new settings is measured, the one before stands in for it.
      if (!map) continue;
      this.feed.setMap(field, map);
      this.bound.add(field);
    }
    this.tellKnown();
    this.stage?.invalidate();
  }

  /** Tells whether the graphics processor has all the maps and images that its program reads. */
  private tellKnown(): void {
    const { asked, bound } = this;
    const shownNetwork = this.network();
    if (!this.feed || !this.program || !shownNetwork) return;
    const { shader, imageSlots } = this.program.program;
    const isMapped = asked
      ? asked.every(({ field }) => !shader.mapFields.includes(field) || bound.has(field))
      : shader.mapFields.length === 0;
    const { waiting } = this.parts.images;
    const isPictured =
      waiting.length === 0 ||
      imageDemands(imageSlots, shownNetwork.document).every(({ hash }) => !waiting.includes(hash));
    this.feed.setKnown(isMapped && isPictured);
  }

  /** Workers hold the open document; one of another material goes along with each request. */
  private isOpenDocument(document: NetworkDocument): boolean {
    return this.parts.stores.document.getState().document === document;
  }

  /** Values at visible points, shared out over the workers that are free. */
  private async fill(
    version: string,
    triangles: Uint32Array,
    weights: Float32Array,
    isWhole: boolean,
    sample?: SampleExtent,
  ): Promise<FillParts> {
    const shownNetwork = this.network();
    if (!this.shown || !shownNetwork) throw new Error('Invariant broken: no model is shown');
    const { id: model, frame } = this.shown;
    const { document, pin } = shownNetwork;
    const { pool, stores } = this.parts;
    const isMeasuring = stores.measuring.getState().progress !== null;
    const workers = isMeasuring ? [pool.evaluator] : pool.all;
    const share = Math.ceil(triangles.length / workers.length / 4) * 4;
    const parts = await Promise.all(
      workers.map((worker, k) => {
        const [from, to] = [
          Math.min(triangles.length, k * share),
          Math.min(triangles.length, (k + 1) * share),
        ];
        const [mine, where] = [triangles.slice(from, to), weights.slice(from * 2, to * 2)];
        const request = {
          subject: this.name,
          model,
          document: this.isOpenDocument(document)
            ? pool.documents.bring(worker, document)
            : document,
          pin,
          isWhole,
          waiting: this.parts.images.waiting,
          ...(sample ? { sample } : {}),
          ...(frame ? { frame } : {}),
          version: `${version} ${String(workers.length)}`,
          triangles: mine,
          weights: where,
        };
        return unwrap(worker.fill(Comlink.transfer(request, [mine.buffer, where.buffer])));
      }),
    );
    this.counts.fills++;
    const [first] = parts;
    if (!first) throw new Error('Invariant broken: no worker');
    return { kind: first.kind, count: triangles.length, share, parts };
  }
}
