import * as Comlink from 'comlink';
import type { ImageAtlas } from '@/core/base/image';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import type { Placement } from '@/core/compile/model-scale';
import type { MeshMap } from '@/core/mesh/mesh-map';
import type { StageReport } from '@/features/stage/stage-events';
import type { StageWorker } from '@/features/stage/stage.worker';
import type { ModelFeed } from '@/state/stage-feed';

/** Sends a command and takes its report. */
export type StageReporter = (report: Promise<StageReport>) => void;

/** What went wrong in the worker of the stage, for a person. */
export const stageProblem = (error: unknown): Problem => ({
  code: 'stage.failed',
  message: `The 3D view failed: ${describeError(error).message}`,
  kept: 'Your work is kept.',
  action: 'Reload the page.',
});

/** A model of the stage, as the page sees it; what the worker has already is not sent twice. */
export class RemoteModel implements ModelFeed {
  private readonly maps = new Map<string, Float32Array>();
  private readonly images = new Map<number, Float32Array>();
  private isKnown = true;

  constructor(
    private readonly name: string,
    private readonly remote: Comlink.Remote<StageWorker>,
    private readonly send: StageReporter,
  ) {}

  setModel(port: MessagePort, placement: Placement): void {
    this.maps.clear();
    this.send(this.remote.setModel(this.name, Comlink.transfer(port, [port]), placement));
  }
  setPlacement(placement: Placement): void {
    this.send(this.remote.setPlacement(this.name, placement));
  }
  expectProgram(): void {
    this.send(this.remote.expectProgram(this.name));
  }
  setProgram(...[program]: Parameters<ModelFeed['setProgram']>): void {
    this.send(this.remote.setProgram(this.name, program));
  }
  setValues(values: Float32Array): void {
    this.send(this.remote.setValues(this.name, values));
  }
  setMap(field: string, map: MeshMap): void {
    if (this.maps.get(field) === map.data) return;
    this.maps.set(field, map.data);
    this.send(this.remote.setMap(this.name, field, map));
  }
  setKnown(isKnown: boolean): void {
    if (this.isKnown === isKnown) return;
    this.isKnown = isKnown;
    this.send(this.remote.setKnown(this.name, isKnown));
  }
  setImage(slot: number, sheet: ImageAtlas): void {
    if (this.images.get(slot) === sheet.data) return;
    this.images.set(slot, sheet.data);
    this.send(this.remote.setImage(this.name, slot, sheet));
  }
  setAppearance(...[appearance]: Parameters<ModelFeed['setAppearance']>): void {
    this.send(this.remote.setAppearance(this.name, appearance));
  }
  setShadow(...[opacity]: Parameters<ModelFeed['setShadow']>): void {
    this.send(this.remote.setShadow(this.name, opacity));
  }
  touch(): void {
    this.send(this.remote.touch(this.name));
  }
}
