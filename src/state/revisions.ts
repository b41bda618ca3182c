import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { openRevision } from '../contract/materials';
import { notePresence } from '../contract/revisions';
import type { Presence } from '../contract/revisions';
import { squareCamera } from '../core/evaluate/camera';
import type { Picture } from '../core/evaluate/picture';
import { unwrap } from '../workers/answer';
import { call } from './api';
import type { Evaluation } from './evaluation';
import { read } from './query-client';
import { stores } from './stores';
import { keyOfCall } from './use-call';
import { useDocument } from './use-stores';

/** Of a revision's picture, pixels a side. */
const SIDE = 72;
/** One is drawn after the other: the worker has other things to do, too. */
let drawing: Promise<unknown> = Promise.resolve();

/** A revision as the stage sees the model now; undefined until it is drawn. */
export function useRevisionPicture(evaluation: Evaluation, number: number): Picture | undefined {
  const [picture, setPicture] = useState<Picture>();
  useEffect(() => {
    let isLate = false;
    const { materialId, modelId } = stores.document.getState();
    const { camera } = stores.view.getState();
    const draw = async (): Promise<void> => {
      if (isLate || !camera) return;
      const params = { id: materialId, number: String(number) };
      const { document } = await read(openRevision, { params });
      const { background } = evaluation.pool;
      const asked = background.picture(modelId, document, 'surface', squareCamera(camera), SIDE);
      const made = await unwrap(asked);
      if (!isLate) setPicture(made);
    };
    // One that cannot be drawn has no picture; its row says when it was saved.
    drawing = drawing.then(draw).catch(() => undefined);
    return () => {
      isLate = true;
    };
  }, [evaluation, number]);
  return picture;
}

/** How often one says that one is there, milliseconds. */
const BEAT = 8000;

/** Who else has the open material open, and whether a newer revision than one's own is saved. */
export interface Company {
  readonly others: readonly Presence[];
  /** Who saved the newest revision, where one has not got it. */
  readonly newer: { readonly revision: number; readonly by: string } | null;
}

/** Says that one is in the open material, and tells who else is. */
export function useCompany(): Company {
  const id = useDocument((state) => state.materialId);
  const own = useDocument((state) => state.revision);
  const { data } = useQuery({
    queryKey: keyOfCall(notePresence, { id }),
    queryFn: ({ signal }) => {
      const { revision } = stores.document.getState();
      const body = { revision, isLeaving: false };
      return call(notePresence, { params: { id }, body, signal });
    },
    enabled: id !== '',
    refetchInterval: BEAT,
    refetchIntervalInBackground: true,
  });
  useEffect(() => {
    if (id === '') return;
    const leave = (): void => {
      const body = { revision: 0, isLeaving: true };
      // Whoever cannot say so is not heard of any more.
      call(notePresence, { params: { id }, body }).catch(() => undefined);
    };
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [id]);
  if (!data) return ALONE;
  const { others, head, headAuthor } = data;
  return { others, newer: head > own ? { revision: head, by: headAuthor } : null };
}
const ALONE: Company = { others: [], newer: null };
