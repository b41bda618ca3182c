import * as Comlink from 'comlink';
import type { ModelBounds } from '@/core/compile/model-scale';
import type { BeaconInput, PlacedBeacon } from '@/core/edit/beacons';
import type { SceneLight, Surroundings, Triple } from '@/core/graph/document';
import { buffersOfFill } from '@/state/fill-parts';
import { sightOf } from '@/state/stage-feed';
import type { FillSource, ModelFeed, StageFeed, StageSight } from '@/state/stage-feed';
import type { Problem } from '@/core/base/problem';
import { WorkerProblem, attempt, lostWorker, unwrap } from '@/workers/answer';
import { ended } from '@/workers/life';
import { listenTo } from './stage-input';
import type { StageInput, StageSize } from './stage-input';
import type { SceneBox } from './stage-lights';
import type { StageEvents, StageFacts, StageMode, StageReport, StageWishes } from './stage-events';
import type { StageWorker } from './stage.worker';
import type { StageLook } from '@/state/stores';
import { RemoteModel, stageProblem } from '@/features/stage/remote-model';
import type { StageReporter } from '@/features/stage/remote-model';

const sizeOf = (host: HTMLElement, { trial }: StageWishes): StageSize => ({
  width: Math.max(1, host.clientWidth),
  height: Math.max(1, host.clientHeight),
  ratio: trial?.ratio ?? Math.min(2, window.devicePixelRatio),
});

/**
 * What happens on the stage that the page must know of; `onLost`: it ended, and another is to be
 * made.
 */
export interface StageListener extends Pick<
  StageEvents,
  'onCamera' | 'onBeacon' | 'onLight' | 'onLost' | 'onRefused'
> {
  onProblem(problem: Problem): void;
}

/**
 * The stage as the page sees it: a canvas that a worker draws, so that the page never waits for a
 * picture.
 */
export class RemoteStage implements StageFeed {
  private readonly canvas = document.createElement('canvas');
  private readonly worker = new Worker(new URL('./stage.worker.ts', import.meta.url), {
    type: 'module',
  });
  private readonly remote = Comlink.wrap<StageWorker>(this.worker);
  private readonly sources = new Map<string, FillSource>();
  private readonly observer: ResizeObserver;
  private facts: StageFacts = { mode: 'workers', targets: 0, isShort: false };
  private last: StageReport = { number: 0, isBusy: false };
  private unanswered = 0;
  private isClosed = false;

  private constructor(
    private readonly host: HTMLElement,
    private readonly wishes: StageWishes,
    private readonly listener: StageListener,
  ) {
    const { canvas } = this;
    // Until the picture of another size is drawn, the one there is is cropped, never stretched.
    canvas.className = 'block h-full w-full touch-none object-cover';
    canvas.setAttribute('role', 'img');
    canvas.setAttribute(
      'aria-label',
      'The model with its material. Drag to turn, scroll to come closer, F to frame.',
    );
    canvas.tabIndex = 0;
    this.observer = new ResizeObserver(() => {
      this.send(this.remote.resize(sizeOf(host, wishes)));
    });
  }

  /** @throws WorkerProblem where the browser draws no 3D view */
  static async open(
    host: HTMLElement,
    wishes: StageWishes,
    listener: StageListener,
  ): Promise<RemoteStage> {
    const stage = new RemoteStage(host, wishes, listener);
    try {
      await stage.begin();
    } catch (error) {
      stage.close();
      throw error;
    }
    return stage;
  }

  private async begin(): Promise<void> {
    const { canvas, host, remote, wishes } = this;
    host.append(canvas);
    const surface = canvas.transferControlToOffscreen();
    const end = this.ending();
    const beginning = unwrap(
      remote.open(
        Comlink.transfer(surface, [surface]),
        sizeOf(host, wishes),
        wishes,
        Comlink.proxy(this.events()),
      ),
    );
    this.facts = await Promise.race([
      beginning,
      end.then(() => {
        throw lostWorker();
      }),
    ]);
    void end.then(() => {
      this.lose();
    });
    listenTo(canvas, (input: StageInput) => {
      this.send(remote.input(input));
    });
    this.observer.observe(host);
  }

  /** What the worker tells and asks of the page. */
  private events(): StageEvents {
    const { listener } = this;
    return {
      onCamera: (camera) => {
        listener.onCamera(camera);
      },
      onBeacon: (...moved) => {
        listener.onBeacon(...moved);
      },
      onLight: (...moved) => {
        listener.onLight(...moved);
      },
      onReport: (report) => {
        this.note(report);
      },
      onRefused: (reason) => {
        listener.onRefused(reason);
      },
      onLost: () => {
        this.lose();
      },
      fill: (name, ...asked) => attempt(() => this.fill(name, asked)),
    };
  }

  private async fill(name: string, asked: Parameters<FillSource>): ReturnType<FillSource> {
    const source = this.sources.get(name);
    if (!source)
      throw new WorkerProblem({
        code: 'stage.left',
        message: 'The model left the stage.',
        kept: '',
        action: '',
      });
    try {
      const result = await source(...asked);
      return Comlink.transfer(result, buffersOfFill(result));
    } catch (error) {
      // What a network does wrong is said beside the swatches; anything else is said here.
      if (!(error instanceof WorkerProblem)) this.listener.onProblem(stageProblem(error));
      throw error;
    }
  }

  /** Resolves when the worker ends, by whatever cause. */
  private ending(): Promise<void> {
    const failed = new Promise<void>((resolve) => {
      const end = (): void => {
        resolve();
      };
      this.worker.addEventListener('error', end, { once: true });
    });
    return Promise.race([ended((name) => this.remote.live(name)), failed]);
  }

  private lose(): void {
    if (!this.isClosed) this.listener.onLost();
  }

  close(): void {
    this.isClosed = true;
    this.observer.disconnect();
    this.worker.terminate();
    this.canvas.remove();
  }

  /** Ends the worker as the system might, without a word. */
  kill(): void {
    this.worker.terminate();
  }

  get mode(): StageMode {
    return this.facts.mode;
  }
  get isShort(): boolean {
    return this.facts.isShort;
  }
  get targets(): number {
    return this.facts.targets;
  }
  get isBusy(): boolean {
    return this.unanswered > 0 || this.last.isBusy;
  }

  private note(report: StageReport): void {
    if (report.number > this.last.number) this.last = report;
  }

  /** Commands are answered in their order, each with whether a picture is still to come. */
  private readonly send: StageReporter = (answer) => {
    this.unanswered++;
    answer
      .then(
        (report) => {
          this.note(report);
        },
        (error: unknown) => {
          this.listener.onProblem(stageProblem(error));
        },
      )
      .finally(() => {
        this.unanswered--;
      });
  };

  add(name: string, fill: FillSource): ModelFeed {
    this.sources.set(name, fill);
    this.send(this.remote.add(name));
    return new RemoteModel(name, this.remote, this.send);
  }
  remove(name: string): void {
    this.sources.delete(name);
    this.send(this.remote.remove(name));
  }
  setScene({ minimum, extent, size }: ModelBounds, all: SceneBox): void {
    this.send(this.remote.setScene({ minimum, extent, size }, all));
  }
  setLook(look: StageLook, stretch: readonly [number, number]): void {
    this.send(this.remote.setLook(look, stretch));
  }
  setSight(sight: StageSight): void {
    this.send(this.remote.setSight(sightOf(sight)));
  }
  placeLights(isPlacing: boolean): void {
    this.send(this.remote.placeLights(isPlacing));
  }
  setSurroundings(surroundings: Surroundings): void {
    this.send(this.remote.setSurroundings(surroundings));
  }
  setLights(lights: readonly SceneLight[]): void {
    this.send(this.remote.setLights(lights));
  }
  setBeacons(beacons: readonly PlacedBeacon[], chosen: string | null, mode: BeaconInput): void {
    this.send(this.remote.setBeacons(beacons, chosen, mode));
  }
  invalidate(): void {
    this.send(this.remote.invalidate());
  }
  orbit(turnRad: number, tiltRad: number): void {
    this.send(this.remote.orbit(turnRad, tiltRad));
  }
  frameModel(): void {
    this.send(this.remote.frameModel());
  }
  standAt(eye: Triple, target: Triple): void {
    this.send(this.remote.standAt(eye, target));
  }
  lookAt(place: Triple, radius: number): void {
    this.send(this.remote.lookAt(place, radius));
  }

  /** Where a place of object space is seen, pixels of the page. */
  async project(place: Triple): Promise<readonly [number, number]> {
    const [x, y] = await this.remote.project(place),
      box = this.canvas.getBoundingClientRect();
    return [box.left + x, box.top + y];
  }
  /** The ray from the eye through a place of the page. */
  rayThrough(x: number, y: number): Promise<{ readonly from: Triple; readonly towards: Triple }> {
    const box = this.canvas.getBoundingClientRect();
    return this.remote.rayThrough(x - box.left, y - box.top);
  }

  // Times for tests and benchmarks, milliseconds.
  timing(): Promise<{
    readonly frames: number;
    readonly lastFrame: number;
    readonly lastCompile: number;
  }> {
    return this.remote.timing();
  }
  /** Draws now and waits for the graphics processor. */
  drawAndWait(): Promise<number> {
    return this.remote.drawAndWait();
  }
  finish(): Promise<void> {
    return this.remote.finish();
  }
  /** What is drawn, as PNG: the page's own canvas may still hold the picture before. */
  picture(): Promise<Blob> {
    return this.remote.picture();
  }
}
