import type { ModelId } from '../core/base/ids';
import type { LoadedModels } from '../core/evaluate/loaded-model';
import type { SurfaceMesh } from '../core/mesh/surface-mesh';

/** Models on their way from another worker, past the page. Whatever is asked waits for them. */
export class ModelArrivals {
  private pending: Promise<unknown> = Promise.resolve();
  private readonly cancels = new Map<ModelId, () => void>();

  constructor(private readonly models: LoadedModels) {}

  /** Resolves when every model that was announced has come, or will not come. */
  get all(): Promise<unknown> {
    return this.pending;
  }

  /** Registers the model that comes through a port. @throws what its mesh does wrong */
  receive(id: ModelId, port: MessagePort): Promise<void> {
    const arrival = new Promise<SurfaceMesh | null>((resolve) => {
      port.onmessage = ({ data }: MessageEvent<SurfaceMesh>) => {
        resolve(data);
      };
      this.cancels.set(id, () => {
        resolve(null);
      });
    }).then((mesh) => {
      if (mesh) this.models.add(id, mesh);
      this.cancels.delete(id);
      port.close();
    });
    // One that cannot be taken is told to whoever sent it, and holds up nothing else.
    this.pending = Promise.all([this.pending, arrival.catch(() => undefined)]);
    return arrival;
  }

  /** The worker that was to send a model ended: it is not waited for any longer. */
  cancel(id: ModelId): void {
    this.cancels.get(id)?.();
  }
}
