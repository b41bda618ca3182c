import Joi from 'joi';
import { rampStop, rampValue } from './document-shape';
import type { RampStop, RampValue } from './document';

/** A ramp or a stop that was copied, or why the text is none. */
export type RampClip =
  { readonly ramp: RampValue } | { readonly stop: RampStop } | { readonly reason: string };

const MOST_CHARACTERS = 64 * 1024;
const form = Joi.object({
  ramp: rampValue.joi,
  stop: rampStop.joi,
}).xor('ramp', 'stop');

/** Text of a ramp or a stop for the clipboard: JSON with one member, `ramp` or `stop`. */
export const rampClipText = (clip: Exclude<RampClip, { readonly reason: string }>): string =>
  JSON.stringify(clip);

/** Reads what `rampClipText` wrote, from any text; everything in it is valid then. */
export function readRampClip(text: string): RampClip {
  if (text.length > MOST_CHARACTERS)
    return { reason: 'What is on the clipboard is too much for a ramp: nothing was pasted.' };
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return { reason: 'There is no ramp on the clipboard. Copy a ramp or a stop first.' };
  }
  const { error } = form.validate(raw, { convert: false });
  if (!error) return raw as RampClip;
  const isMeant = typeof raw === 'object' && raw !== null && ('ramp' in raw || 'stop' in raw);
  return {
    reason: isMeant
      ? `The ramp on the clipboard cannot be read, and nothing was pasted: ${error.message}.`
      : 'There is no ramp on the clipboard. Copy a ramp or a stop first.',
  };
}
