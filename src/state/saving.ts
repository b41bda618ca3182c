import { del, get, set } from 'idb-keyval';
import type { NetworkDocument } from '../core/graph/document';
import { ApiFailure, getJson, sendJson } from './api';
import { editorStore, openDocument } from './editor-store';

/** A material as the server gives it. */
export interface OpenedMaterial {
  readonly id: string; readonly name: string; readonly projectId: string; readonly modelId: string; readonly revision: number; readonly document: NetworkDocument;
  readonly authorName: string; readonly savedAt: string;
}
/** Work not yet confirmed by the server, as the browser keeps it. */
export interface Draft { readonly base: number; readonly modelId: string; readonly document: NetworkDocument; readonly at: number }
export interface Clash { readonly theirs: OpenedMaterial }

const SAVE_AFTER = 900;
const RETRY_AFTER = 4000;
const draftKey = (id: string): string => `bright-loom draft ${id}`;

/** Saves by itself: into the browser at once, to the server shortly after. Nothing is dropped until the server has confirmed it. */
export class Saver {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Promise<void> = Promise.resolve();
  private readonly stop: () => void;
  clash: Clash | null = null;

  constructor(private readonly onClash: (clash: Clash) => void) {
    this.stop = editorStore.subscribe((state, before) => {
      if (state.materialId === '' || state.saveState === 'saved') return;
      if (state.document === before.document && state.modelId === before.modelId) return;
      void this.keepDraft();
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

  private readonly retry = (): void => { if (editorStore.getState().saveState !== 'saved') this.schedule(0); };
  private readonly warn = (event: BeforeUnloadEvent): void => { if (['offline', 'refused', 'clash'].includes(editorStore.getState().saveState)) event.preventDefault(); };

  private schedule(after: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => { void this.flush(); }, after);
  }

  private async keepDraft(): Promise<void> {
    const { materialId, document, modelId, revision } = editorStore.getState();
    try {
      await set(draftKey(materialId), { base: revision, modelId, document, at: Date.now() } satisfies Draft);
    } catch {
      editorStore.setState({ saveMessage: 'This browser keeps no copy of unsaved work (its storage is full or off).' });
    }
  }

  /** Saves what is unsaved; resolves when the server has the present state, or could not take it. */
  async flush(): Promise<boolean> {
    clearTimeout(this.timer);
    this.running = this.running.then(() => this.save());
    await this.running;
    return editorStore.getState().saveState === 'saved';
  }

  private async save(): Promise<void> {
    const { materialId, document, modelId, revision, saveState } = editorStore.getState();
    if (saveState === 'saved' || saveState === 'clash') return;
    editorStore.setState({ saveState: 'saving' });
    try {
      const { revision: next } = await sendJson<{ revision: number }>('PUT', `/api/materials/${materialId}`, { base: revision, modelId, document });
      const now = editorStore.getState();
      if (now.materialId !== materialId) return;
      const settledNow = now.document === document && now.modelId === modelId;
      editorStore.setState({ revision: next, saveState: settledNow ? 'saved' : 'unsaved', saveMessage: '' });
      if (settledNow) await del(draftKey(materialId)).catch(() => undefined);
      else { await this.keepDraft(); this.schedule(SAVE_AFTER); }
    } catch (error) {
      this.handle(error);
    }
  }

  private handle(error: unknown): void {
    if (!(error instanceof ApiFailure)) throw error;
    const message = `${error.message} ${error.action}`.trim();
    if (error.status === 409) {
      this.clash = { theirs: error.details as OpenedMaterial };
      editorStore.setState({ saveState: 'clash', saveMessage: message });
      this.onClash(this.clash);
    } else if (error.status === 401) editorStore.setState({ saveState: 'signed-out', saveMessage: message });
    else if (error.status === 0 || error.status >= 500) {
      editorStore.setState({ saveState: 'offline', saveMessage: message });
      this.schedule(RETRY_AFTER);
    } else editorStore.setState({ saveState: 'refused', saveMessage: message });
  }

  /** Goes on with my version: it becomes a revision on top of theirs, which stays in the history. */
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
    const copy = await sendJson<{ id: string }>('POST', '/api/materials', { projectId: theirs.projectId, modelId: theirs.modelId, document: { ...document, name: `${document.name} (my version)` } });
    await del(draftKey(theirs.id)).catch(() => undefined);
    openDocument({ document: theirs.document, materialId: theirs.id, modelId: theirs.modelId, revision: theirs.revision });
    this.clash = null;
    return copy.id;
  }
}

/** Opens a material, with unsaved work of this browser on top where there is some. */
export async function openMaterial(id: string): Promise<{ material: OpenedMaterial; restored: boolean }> {
  const material = await getJson<OpenedMaterial>(`/api/materials/${id}`);
  const draft = await get<Draft>(draftKey(id)).catch(() => undefined);
  openDocument({ document: material.document, materialId: id, modelId: material.modelId, revision: material.revision });
  if (!draft) return { material, restored: false };
  editorStore.setState({
    document: draft.document, modelId: draft.modelId, revision: draft.base, saveState: 'unsaved', past: [{ label: 'Restored unsaved work', document: material.document }],
  });
  return { material, restored: true };
}
