import { listLights } from '../core/compile/lights';
import type { ShadowOpacity } from '../core/evaluate/shadow-opacity';
import type { NetworkDocument } from '../core/graph/document';
import type { Appearance } from '../core/surface/stage-layout';
import { isLost, unwrap } from '../workers/answer';
import type { WorkerPool } from '../workers/pool';

/** What a model throws its shadow by. */
export interface ShadowCaster {
  readonly model: string;
  readonly document: NetworkDocument;
  readonly isOpen: boolean;
}

/**
 * Keeps the shadow of a see-through surface as dense as the surface is: has a worker find what it
 * stops of the light, again after every edit; while one answer is on its way only the newest state
 * waits.
 */
export class ThrownShadow {
  private isAsking = false;
  private next: ShadowCaster | null = null;
  private isWhole = true;

  /** @param show what the shadow is thrown by; null for the whole surface */
  constructor(
    private readonly pool: WorkerPool,
    private readonly show: (opacity: ShadowOpacity | null) => void,
  ) {}

  get isBusy(): boolean {
    return this.isAsking;
  }

  /** @param caster null where no shadow is thrown, or nothing is shaded */
  follow(caster: ShadowCaster | null, { opacityMode }: Appearance): void {
    const isSeen =
      caster !== null &&
      opacityMode !== 'opaque' &&
      listLights(caster.document).some(({ shadows }) => shadows);
    this.next = isSeen ? caster : null;
    if (isSeen) void this.ask();
    else if (!this.isWhole) {
      this.isWhole = true;
      this.show(null);
    }
  }

  private async ask(): Promise<void> {
    if (this.isAsking) return;
    this.isAsking = true;
    try {
      for (let asked = this.next; asked; asked = this.next) {
        this.next = null;
        const { background, documents } = this.pool;
        const named = asked.isOpen ? documents.bring(background, asked.document) : asked.document;
        const opacity = await unwrap(background.shadowOpacity(asked.model, named));
        this.isWhole = false;
        this.show(opacity);
      }
    } catch (error) {
      // The findings say what is wrong with the document; the shadow stays as it was.
      if (isLost(error)) this.next = null;
    } finally {
      this.isAsking = false;
    }
  }
}
