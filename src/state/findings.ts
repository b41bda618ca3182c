import type { Diagnostic } from '../core/base/diagnostic';
import { imagePlaces } from '../core/compile/images';
import type { NetworkDocument } from '../core/graph/document';
import { locateFinding } from '../core/graph/finding-place';
import { isLost } from '../workers/answer';
import type { ImageState, Stores } from './stores';

type CheckDocument = (document: NetworkDocument) => Promise<readonly Diagnostic[]>;

/** Errors first, then warnings, then notes; else in the order of the document. */
const ORDER = { error: 0, warning: 1, note: 2 } as const;

/** Images that cannot be had, as findings at the nodes that show them. */
export function imageFindings(
  document: NetworkDocument,
  images: ReadonlyMap<string, ImageState>,
): readonly Diagnostic[] {
  return imagePlaces(document).flatMap(({ hash, name, node, pointer }) => {
    const state = images.get(hash);
    return state?.state === 'failed'
      ? [
          {
            code: 'image.unavailable' as const,
            severity: 'warning' as const,
            pointer,
            nodeId: node,
            message:
              `The image “${name || hash.slice(0, 8)}” cannot be shown; grey stands in for it, ` +
              `and its place is kept. ${state.message}`,
          },
        ]
      : [];
  });
}

/**
 * Keeps the findings of the open document up to date: one check at a time, and always one more
 * after the last edit.
 */
export class FindingsKeeper {
  private checking = false;
  private again = false;
  private found: readonly Diagnostic[] = [];
  private of: NetworkDocument | null = null;

  /** @param check checks a document elsewhere; may throw, also that a worker was lost */
  constructor(
    private readonly check: CheckDocument,
    private readonly stores: Pick<Stores, 'document' | 'results' | 'findings'>,
  ) {}

  get isBusy(): boolean {
    return this.checking;
  }

  /** The document changed, or a worker is there again. */
  request(): void {
    if (this.checking) this.again = true;
    else void this.run();
  }

  /** An image arrived or failed. */
  imagesChanged(): void {
    this.report();
  }

  private async run(): Promise<void> {
    this.checking = true;
    try {
      do {
        this.again = false;
        const { document } = this.stores.document.getState();
        this.found = await this.check(document);
        this.of = document;
        this.report();
      } while (this.again);
    } catch (failure) {
      // The worker in its place is asked when it is there.
      if (!isLost(failure)) this.stores.findings.setState({ failure });
    } finally {
      this.checking = false;
    }
  }

  private report(): void {
    const { of } = this;
    if (!of) return;
    const all = [...this.found, ...imageFindings(of, this.stores.results.getState().images)];
    const findings = all
      .map((finding) => ({ ...finding, place: locateFinding(of, finding) }))
      .sort((a, b) => ORDER[a.severity] - ORDER[b.severity]);
    this.stores.findings.setState({ checked: of, findings, failure: null });
  }
}
