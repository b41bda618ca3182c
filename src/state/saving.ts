import { createMaterial } from '../contract/materials';
import type { OpenedMaterial } from '../contract/materials';
import { describeError, problemText } from '../core/base/problem';
import { ApiFailure } from './api';
import { client } from './client';
import type { Client } from './client';
import { systemClock } from './clock';
import type { Clock } from './clock';
import { dropDraft, keepDraft } from './drafts';
import type { DraftOf, Sent } from './drafts';
import { makeEditing } from './editing';
import { sendDocument } from './send-document';
import type { Confirmed } from './send-document';
import { stores } from './stores';
import type { SaveState, Stores } from './stores';

export interface Clash {
  readonly theirs: OpenedMaterial;
}

const SAVE_AFTER = 900;
/** How often a drag that goes on is kept in the browser, milliseconds. */
const KEEP_EVERY = 500;
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

/** What saving works with. */
export interface SavingParts {
  readonly stores: Stores;
  readonly client: Client;
  readonly clock: Clock;
}
const HERE: SavingParts = { stores, client, clock: systemClock };

interface SaverGiven {
  readonly userId: string;
  readonly onClash: (clash: Clash) => void;
  /** What an earlier page sent without an answer. */
  readonly unanswered?: Sent | null;
  /** A state that the server has, by its revision. */
  readonly confirmed?: Confirmed | null;
}
/**
 * Saves by itself: into the browser at once, to the server shortly after. Nothing is dropped until
 * the server has confirmed it, and no failure ends the saving: the next change, or the next try,
 * saves again.
 */
export class Saver {
  private callOff: () => void = () => undefined;
  private running: Promise<void> = Promise.resolve();
  private readonly stop: () => void;
  private failures = 0;
  private isKeepDue = false;
  /**
   * What was sent without an answer. It is sent again before anything newer: if it was saved, it is
   * found to be.
   */
  private unanswered: Sent | null;
  private confirmed: Confirmed | null;
  clash: Clash | null = null;

  constructor(
    private readonly given: SaverGiven,
    private readonly parts: SavingParts = HERE,
  ) {
    this.unanswered = given.unanswered ?? null;
    this.confirmed = given.confirmed ?? null;
    this.stop = parts.stores.document.subscribe((state, before) => {
      if (state.gesture === null && before.gesture !== null) this.keepNow();
      if (state.edits === 0 || state.edits === before.edits) return;
      this.edited();
    });
    // A page has these; where there is no window, nothing comes back and nothing is left.
    globalThis.window?.addEventListener('online', this.retry);
    globalThis.window?.addEventListener('beforeunload', this.warn);
    globalThis.window?.addEventListener('pagehide', this.keepNow);
  }

  private get saveState(): SaveState {
    return this.parts.stores.saving.getState().saveState;
  }
  private say(saveState: SaveState, saveMessage?: string): void {
    this.parts.stores.saving.setState({
      saveState,
      ...(saveMessage === undefined ? {} : { saveMessage }),
    });
  }

  private edited(): void {
    if (this.saveState !== 'clash') this.say('unsaved');
    this.keepSoon();
    this.schedule(SAVE_AFTER);
  }

  /** Into the browser at once; in the middle of a drag now and then, for it may be large. */
  private keepSoon(): void {
    if (this.parts.stores.document.getState().gesture === null) return void this.keep();
    if (this.isKeepDue) return;
    this.isKeepDue = true;
    this.parts.clock.after(KEEP_EVERY, this.keepNow);
  }

  close(): void {
    this.stop();
    this.callOff();
    globalThis.window?.removeEventListener('online', this.retry);
    globalThis.window?.removeEventListener('beforeunload', this.warn);
    globalThis.window?.removeEventListener('pagehide', this.keepNow);
  }

  private readonly retry = (): void => {
    if (this.saveState !== 'saved') this.schedule(0);
  };
  private readonly warn = (event: BeforeUnloadEvent): void => {
    if (['offline', 'refused', 'clash'].includes(this.saveState)) event.preventDefault();
  };

  private get draftOf(): DraftOf {
    const { materialId } = this.parts.stores.document.getState();
    return { userId: this.given.userId, materialId };
  }

  private schedule(after: number): void {
    this.callOff();
    this.callOff = this.parts.clock.after(after, () => void this.flush());
  }

  private readonly keepNow = (): void => {
    if (this.isKeepDue) void this.keep();
  };

  private async keep(): Promise<void> {
    this.isKeepDue = false;
    const { document, modelId, revision } = this.parts.stores.document.getState();
    const draft = { base: revision, modelId, document, at: Date.now(), sent: this.unanswered };
    try {
      await keepDraft(this.draftOf, draft);
    } catch {
      this.parts.stores.saving.setState({ saveMessage: NO_STORAGE });
    }
  }

  /**
   * Saves what is unsaved; resolves when the server has the present state, or could not take it.
   */
  async flush(): Promise<boolean> {
    this.callOff();
    this.running = this.running.then(() => this.save());
    await this.running;
    return this.saveState === 'saved';
  }

  /** Resolves when the save that is under way has ended, whatever came of it. */
  get idle(): Promise<void> {
    return this.running;
  }

  /** Never rejects: whatever goes wrong is said, and saving goes on. */
  private async save(): Promise<void> {
    if (this.saveState === 'saved' || this.saveState === 'clash') return;
    const { materialId, document, modelId } = this.parts.stores.document.getState();
    this.say('saving');
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
    const documents = this.parts.stores.document;
    const { revision: base } = documents.getState();
    const target = { id: materialId, base, confirmed: this.confirmed };
    const revision = await sendDocument(this.parts.client, target, sent);
    this.unanswered = null;
    this.confirmed = { revision, document: sent.document };
    this.failures = 0;
    if (documents.getState().materialId === materialId) documents.setState({ revision });
  }

  private async confirm(materialId: string, sent: Sent): Promise<void> {
    const now = this.parts.stores.document.getState();
    if (now.materialId !== materialId) return;
    const isSettled = now.document === sent.document && now.modelId === sent.modelId;
    this.say(isSettled ? 'saved' : 'unsaved', '');
    if (isSettled) return dropDraft(this.draftOf);
    await this.keep();
    this.schedule(SAVE_AFTER);
  }

  private handle(error: unknown): void {
    const meaning = meaningOf(error);
    const saveMessage = problemText(describeError(error));
    if (meaning === 'away' || meaning === 'failed') {
      this.failures++;
      if (meaning === 'failed' && this.failures > MOST_FAILURES)
        return this.say('refused', saveMessage);
      this.say('offline', saveMessage);
      this.schedule(Math.min(RETRY.longest, RETRY.first * 2 ** (this.failures - 1)));
      return;
    }
    // The server has said what became of it.
    this.unanswered = null;
    if (meaning === 'clash') {
      this.clash = { theirs: (error as ApiFailure).details as OpenedMaterial };
      this.say('clash', saveMessage);
      this.given.onClash(this.clash);
    } else this.say(meaning, saveMessage);
  }

  /**
   * Goes on with my version: it becomes a revision on top of theirs, which stays in the history.
   */
  async keepMine(): Promise<void> {
    if (!this.clash) return;
    this.goOnTop(this.clash.theirs);
    this.say('unsaved');
    this.clash = null;
    await this.flush();
  }

  private goOnTop({ revision, document }: OpenedMaterial): void {
    this.parts.stores.document.setState({ revision });
    this.confirmed = { revision, document };
  }

  /** Goes on with theirs; mine is saved as a material of its own first. */
  async takeTheirs(): Promise<string | null> {
    if (!this.clash) return null;
    const { document } = this.parts.stores.document.getState();
    const { theirs } = this.clash;
    const { projectId, modelId, id: materialId, revision } = theirs;
    const mine = { ...document, name: `${document.name.slice(0, 180)} (my version)` };
    const copy = await this.parts.client.call(createMaterial, {
      body: { projectId, modelId, document: mine },
    });
    await dropDraft(this.draftOf);
    const opened = { document: theirs.document, materialId, modelId, revision };
    makeEditing(this.parts.stores).openDocument(opened);
    this.goOnTop(theirs);
    this.say('saved', '');
    this.clash = null;
    return copy.id;
  }
}
