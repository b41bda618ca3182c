import { useQuery } from '@tanstack/react-query';
import type { UseQueryResult } from '@tanstack/react-query';
import { forgetState, keepState, listStates, tellState } from '../contract/states';
import type { StateView, StateWords } from '../contract/states';
import { AppError } from '../core/base/diagnostic';
import { call } from './api';
import { queryClient } from './query-client';
import type { Saver } from './saving';
import { stores } from './stores';
import { keyOfCall } from './use-call';
import { useDocument } from './use-stores';

type States = { readonly states: readonly StateView[] };
/** While a picture is being drawn it is asked for again, milliseconds. */
const AGAIN = 1500;

/** The kept states of the open material, the earliest first. */
export function useStates(): UseQueryResult<States> {
  const id = useDocument((state) => state.materialId);
  return useQuery<States>({
    queryKey: keyOfCall(listStates, { id }),
    queryFn: ({ signal }) => call(listStates, { params: { id }, signal }),
    enabled: id !== '',
    refetchInterval: ({ state }) =>
      state.data?.states.some(({ pictureHash }) => pictureHash === null) ? AGAIN : false,
  });
}

const askAgain = (): Promise<void> =>
  queryClient().invalidateQueries({ queryKey: [listStates.path] });

/** What a director spoke of, and the amount that was set. */
export interface RoundGiven {
  readonly about: string;
  readonly amount: number | null;
}

/**
 * Keeps the open material as it is now: it is saved, and the state names that revision.
 * @throws ApiFailure; AppError where it cannot be saved
 */
export async function keepStateHere(
  saver: Saver,
  name: string,
  note: string,
  round: RoundGiven | null = null,
): Promise<{ readonly id: string }> {
  if (!(await saver.flush()))
    throw new AppError(
      'state.unsaved',
      'The material could not be saved, so there is nothing that the state could name.',
      'Save it, then keep the state again.',
      { kept: 'Your work is kept in this browser.' },
    );
  const { materialId, revision, modelId } = stores.document.getState();
  const { camera } = stores.view.getState();
  if (!camera)
    throw new AppError('state.no-camera', 'The stage shows nothing yet.', 'Wait for the model.');
  const { about, amount } = round ?? { about: null, amount: null };
  const kept = await call(keepState, {
    params: { id: materialId },
    body: { revision, modelId, camera, name, note, about, amount },
  });
  await askAgain();
  return kept;
}

/** @throws ApiFailure */
export async function tellStateHere(state: string, words: StateWords): Promise<void> {
  const { materialId } = stores.document.getState();
  await call(tellState, { params: { id: materialId, state }, body: words });
  await askAgain();
}

/** @throws ApiFailure */
export async function forgetStateHere(state: string): Promise<void> {
  const { materialId } = stores.document.getState();
  await call(forgetState, { params: { id: materialId, state }, body: {} });
  await askAgain();
}
