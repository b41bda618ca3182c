import { KEPT_RAMPS } from '@/contract/ramps';
import { AppError } from '@/core/base/diagnostic';
import type { RampValue } from '@/core/graph/document';
import {
  countRamps,
  forgetRamp as removeRamp,
  keepRamp as storeRamp,
  listRamps as readRamps,
} from '@/db/queries/ramps';
import type { SignedIn } from './authentication';

/** The ramps a person keeps, by name. */
export const listRamps = (user: SignedIn) => readRamps(user.id);

/** Keeps a ramp under a name, in place of the one that had it. */
export async function keepRamp(
  user: SignedIn,
  { name, ramp }: { readonly name: string; readonly ramp: RampValue },
): Promise<{ id: string }> {
  if ((await countRamps(user.id, name)) >= KEPT_RAMPS)
    throw new AppError(
      'ramp.too-many',
      `You keep ${String(KEPT_RAMPS)} ramps already, the most there may be.`,
      'Forget one that is not used any more.',
      { kept: 'The ramp in the material is as it was.', status: 409 },
    );
  return { id: await storeRamp(user.id, name, ramp) };
}

/** @throws AppError where the person keeps no such ramp */
export async function forgetRamp(user: SignedIn, id: string): Promise<{ id: string }> {
  if (await removeRamp(user.id, id)) return { id };
  throw new AppError('ramp.not-found', 'You keep no such ramp.', 'Open the list again.', {
    status: 404,
  });
}
