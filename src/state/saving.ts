import { createMaterial, openMaterial as openRoute, saveMaterial } from '../contract/materials';
import type { OpenedMaterial } from '../contract/materials';
import { describeError, problemText } from '../core/base/problem';
import { ApiFailure, call } from './api';
import { dropDraft, keepDraft, takeDraft } from './drafts';
import type { DraftOf, Sent } from './drafts';
import { editorStore, openDocument } from './editor-store';
import { read } from './query-client';
import type { SaveState } from './editor-store';

export interface Clash {
  readonly theirs: OpenedMaterial;
}

const SAVE_AFTER = 900;
/** Waits between tries while the server is away: the first, and the longest, milliseconds. */
const RETRY = { first: 3000, longest: 60_000 };
/** Answers that say the server failed are not asked for more often than this in a row. */
const MOST_FAILURES = 3;
const NO_STORAGE = 'This browser keeps no copy of unsaved work (its storage is full or off).';

/** What an answer to a save means. */
type Meaning = 'clash' | 'signed-out' | 'refused' | 'failed' | 'away';
function meaningOf(error: unknown): Meaning {
  // What is no answer at all (cut off, of somebody else, an error on the way) says nothing about
  // the document.
  if (!(error instanceof ApiFailure)) return 'away';
  const status = error.requestStatus;
  if (status === 409) return 'clash';
  if (status === 401) return 'signed-out';
  if (status === 500) return 'failed';
  return status === 0 || status === 429 || status > 500 ? 'away' : 'refused';
}

/**
 * Saves by itself: into the browser at once, to the server shortly after. Nothing is dropped until
 * the server has confirmed it, and no failure ends the saving: the next change, or the next try,
 * saves again.
 */
export class Saver {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Promise<void> = Promise.resolve();
  private readonly stop: () => void;
  private failures = 0;
  /**
   * What was sent without an answer. It is sent again before anything newer: if it was saved, it is
   * found to be.
   */
  private unanswered: Sent | null;
  clash: Clash | null = null;

  constructor(
    private readonly userId: string,
    private readonly onClash: (clash: Clash) => void,
    unanswered: Sent | null = null,
  ) {
    this.unanswered = unanswered;
    this.stop = editorStore.subscribe((state, before) => {
      if (state.materialId === '' || state.saveState === 'saved') return;
      if (state.document === before.document && state.modelId === before.modelId) return;
      void this.keep();
      this.schedule(SAVE_AFTER);
    });
    window.addEventListener('online', this.retry);
    window.addEventListener('beforeunload', this.warn);
  }

  close(): void {
    this.stop();
    clearTimeout(this.timer);
    window.removeEventListener('online', this.retry);
    window.removeEventListener('beforeunload', this.warn);
  }

  private readonly retry = (): void => {
    if (editorStore.getState().saveState !== 'saved') this.schedule(0);
  };
  private readonly warn = (event: BeforeUnloadEvent): void => {
    const { saveState } = editorStore.getState();
    if (['offline', 'refused', 'clash'].includes(saveState)) event.preventDefault();
  };

  private get draftOf(): DraftOf {
    return { userId: this.userId, materialId: editorStore.getState().materialId };
  }

  private schedule(after: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), after);
  }

  private async keep(): Promise<void> {
    const { document, modelId, revision } = editorStore.getState();
    const draft = { base: revision, modelId, document, at: Date.now(), sent: this.unanswered };
    try {
      await keepDraft(this.draftOf, draft);
    } catch {
      editorStore.setState({ saveMessage: NO_STORAGE });
    }
  }

  /**
   * Saves what is unsaved; resolves when the server has the present state, or could not take it.
   */
  async flush(): Promise<boolean> {
    clearTimeout(this.timer);
    this.running = this.running.then(() => this.save());
    await this.running;
    return editorStore.getState().saveState === 'saved';
  }

  /** Never rejects: whatever goes wrong is said, and saving goes on. */
  private async save(): Promise<void> {
    const { materialId, document, modelId, saveState } = editorStore.getState();
    if (saveState === 'saved' || saveState === 'clash') return;
    editorStore.setState({ saveState: 'saving' });
    try {
      if (this.unanswered) await this.send(materialId, this.unanswered);
      await this.send(materialId, { document, modelId });
      await this.confirm(materialId, { document, modelId });
    } catch (error) {
      this.handle(error);
    }
  }

  /** Sends a state on top of the newest revision known; afterwards that is its own. */
  private async send(materialId: string, sent: Sent): Promise<void> {
    const isFirst = this.unanswered === null;
    this.unanswered = sent;
    if (isFirst) await this.keep();
    const { revision: base } = editorStore.getState();
    const body = { base, modelId: sent.modelId, document: sent.document };
    const { revision } = await call(saveMaterial, { params: { id: materialId }, body });
    this.unanswered = null;
    this.failures = 0;
    if (editorStore.getState().materialId === materialId) editorStore.setState({ revision });
  }

  private async confirm(materialId: string, sent: Sent): Promise<void> {
    const now = editorStore.getState();
    if (now.materialId !== materialId) return;
    const isSettled = now.document === sent.document && now.modelId === sent.modelId;
    editorStore.setState({ saveState: isSettled ? 'saved' : 'unsaved', saveMessage: '' });
    if (isSettled) return dropDraft(this.draftOf);
    await this.keep();
    this.schedule(SAVE_AFTER);
  }

  private handle(error: unknown): void {
    const meaning = meaningOf(error);
    const saveMessage = problemText(describeError(error));
    const say = (saveState: SaveState): void => {
      editorStore.setState({ saveState, saveMessage });
    };
    if (meaning === 'away' || meaning === 'failed') {
      this.failures++;
      if (meaning === 'failed' && this.failures > MOST_FAILURES) return say('refused');
      say('offline');
      this.schedule(Math.min(RETRY.longest, RETRY.first * 2 ** (this.failures - 1)));
      return;
    }
    // The server has said what became of it.
    this.unanswered = null;
    if (meaning === 'clash') {
      this.clash = { theirs: (error as ApiFailure).details as OpenedMaterial };
      say('clash');
      this.onClash(this.clash);
    } else say(meaning);
  }

  /**
   * Goes on with my version: it becomes a revision on top of theirs, which stays in the history.
   */
  async keepMine(): Promise<void> {
    if (!this.clash) return;
    editorStore.setState({ revision: this.clash.theirs.revision, saveState: 'unsaved' });
    this.clash = null;
    await this.flush();
  }

  /** Goes on with theirs; mine is saved as a material of its own first. */
  async takeTheirs(): Promise<string | null> {
    if (!this.clash) return null;
    const { document } = editorStore.getState();
    const { theirs } = this.clash;
    const { projectId, modelId, id: materialId, revision } = theirs;
    const mine = { ...document, name: `${document.name.slice(0, 180)} (my version)` };
    const copy = await call(createMaterial, { body: { projectId, modelId, document: mine } });
    await dropDraft(this.draftOf);
    openDocument({ document: theirs.document, materialId, modelId, revision });
    this.clash = null;
    return copy.id;
  }
}

export interface OpenedWork {
  readonly material: OpenedMaterial;
  /** Whether unsaved work of this browser stands on top. */
  readonly restored: boolean;
  /** How many more unsaved versions this browser keeps. */
  readonly more: number;
  readonly unanswered: Sent | null;
}

/**
 * Opens a material, with unsaved work that this person left in this browser on top where there is
 * some.
 */
export async function openMaterial(id: string, userId: string): Promise<OpenedWork> {
  const material = await read(openRoute, { params: { id } });
  const { document, modelId, revision } = material;
  const { draft, more } = await takeDraft({ userId, materialId: id });
  openDocument({ document, materialId: id, modelId, revision });
  if (!draft) return { material, restored: false, more, unanswered: null };
  editorStore.setState({
    document: draft.document,
    modelId: draft.modelId,
    revision: draft.base,
    saveState: 'unsaved',
    past: [{ label: 'Restored unsaved work', document }],
  });
  return { material, restored: true, more, unanswered: draft.sent };
}
