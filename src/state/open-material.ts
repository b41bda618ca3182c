import { openMaterial as openRoute } from '../contract/materials';
import type { OpenedMaterial } from '../contract/materials';
import { client } from './client';
import { takeDraft } from './drafts';
import type { Sent } from './drafts';
import { makeEditing } from './editing';
import type { SavingParts } from './saving';
import { stores } from './stores';

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
 * some. @throws ApiFailure
 */
export async function openMaterial(
  id: string,
  userId: string,
  parts: Pick<SavingParts, 'stores' | 'client'> = { stores, client },
): Promise<OpenedWork> {
  const material = await parts.client.read(openRoute, { params: { id } });
  const { document, modelId, revision } = material;
  const { draft, more } = await takeDraft({ userId, materialId: id });
  const { openDocument } = makeEditing(parts.stores);
  const opened = { document, materialId: id, modelId, revision };
  parts.stores.saving.setState({ saveState: draft ? 'unsaved' : 'saved', saveMessage: '' });
  if (!draft) {
    openDocument(opened);
    return { material, restored: false, more, unanswered: null };
  }
  openDocument(opened, {
    document: draft.document,
    modelId: draft.modelId,
    revision: draft.base,
    past: [{ label: 'Restored unsaved work', document }],
  });
  return { material, restored: true, more, unanswered: draft.sent };
}
