import { createStore } from 'zustand/vanilla';
import type { Diagnostic } from '../core/base/diagnostic';
import { imagePlaces } from '../core/compile/images';
import type { NetworkDocument } from '../core/graph/document';
import { locateFinding } from '../core/graph/finding-place';
import type { FindingPlace } from '../core/graph/finding-place';
import { isLost } from '../workers/answer';
import type { ImageState } from './images';

/** A finding with its place by ids, which holds while the document goes on being edited. */
export interface PlacedFinding extends Diagnostic {
  readonly place: FindingPlace;
}

export interface FindingsState {
  /** The document that was checked last; null before the first check. */
  readonly checked: NetworkDocument | null;
  readonly findings: readonly PlacedFinding[];
  /** The finding a person went to last, until another thing is chosen. */
  readonly shown: PlacedFinding | null;
  readonly isListOpen: boolean;
  /** Why the document could not be checked. */
  readonly failure: unknown;
}

/** What is wrong with the open document, beside it. */
export const findingsStore = createStore<FindingsState>(() => ({
  checked: null,
  findings: [],
  shown: null,
  isListOpen: false,
  failure: null,
}));

export const openFindings = (isListOpen: boolean): void => {
  findingsStore.setState({ isListOpen });
};

interface FindingsSource {
  /** Checks a document elsewhere. @throws anything; a lost worker is asked again later */
  readonly check: (document: NetworkDocument) => Promise<readonly Diagnostic[]>;
  readonly document: () => NetworkDocument;
  readonly images: () => ReadonlyMap<string, ImageState>;
}

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

  constructor(
    private readonly source: FindingsSource,
    private readonly store: typeof findingsStore = findingsStore,
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
    this.tell();
  }

  private async run(): Promise<void> {
    this.checking = true;
    try {
      do {
        this.again = false;
        const document = this.source.document();
        this.found = await this.source.check(document);
        this.of = document;
        this.tell();
      } while (this.again);
    } catch (failure) {
      // The worker in its place is asked when it is there.
      if (!isLost(failure)) this.store.setState({ failure });
    } finally {
      this.checking = false;
    }
  }

  private tell(): void {
    const { of } = this;
    if (!of) return;
    const all = [...this.found, ...imageFindings(of, this.source.images())];
    const findings = all
      .map((finding) => ({ ...finding, place: locateFinding(of, finding) }))
      .sort((a, b) => ORDER[a.severity] - ORDER[b.severity]);
    this.store.setState({ checked: of, findings, failure: null });
  }
}
