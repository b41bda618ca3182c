import { PATCH_STEPS, patchMaterial, saveMaterial } from '../contract/materials';
import type { NetworkDocument } from '../core/graph/document';
import { diffJson } from '../core/graph/patch';
import { ApiFailure } from './api';
import type { Client } from './client';
import type { Sent } from './drafts';

/** A state that the server has: what changed since is sent as a patch to it. */
export interface Confirmed {
  readonly revision: number;
  readonly document: NetworkDocument;
}
interface Target {
  readonly id: string;
  /** The revision it goes on top of. */
  readonly base: number;
  readonly confirmed: Confirmed | null;
}

/**
 * Sends what changed since the last confirmed state; all of it where that is not known, or where
 * the change does not fit. @returns its revision @throws ApiFailure
 */
export async function sendDocument(
  server: Client,
  { id, base, confirmed }: Target,
  { modelId, document }: Sent,
): Promise<number> {
  const whole = async (): Promise<number> => {
    const body = { base, modelId, document };
    return (await server.call(saveMaterial, { params: { id }, body })).revision;
  };
  if (confirmed?.revision !== base) return whole();
  const patch = diffJson(confirmed.document, document);
  if (patch.length > PATCH_STEPS) return whole();
  try {
    const body = { base, modelId, patch };
    return (await server.call(patchMaterial, { params: { id }, body })).revision;
  } catch (error) {
    if (error instanceof ApiFailure && error.code === 'patch.unfit') return whole();
    throw error;
  }
}
