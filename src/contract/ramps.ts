import { rampValue } from '@/core/graph/document-shape';
import type { RampValue } from '@/core/graph/document';
import { identifier, list, object, record, trimmed } from './forms';
import type { TypeOf } from './forms';
import { answers, defineRoute, json } from './route';

/** Most ramps that a person may keep. */
export const KEPT_RAMPS = 200;
const rampForm = object<RampValue>(rampValue.joi);
const name = trimmed(80, 1);

const keptRampForm = record({ id: identifier, name, ramp: rampForm });
export type KeptRamp = TypeOf<typeof keptRampForm>;

/** The ramps one keeps, by name. */
export const listRamps = defineRoute('GET', '/api/ramps', {
  who: { audience: 'signed-in' },
  answer: answers(record({ ramps: list(keptRampForm, KEPT_RAMPS) })),
});

/** Keeps a ramp; one of the same name is replaced. */
export const keepRamp = defineRoute('POST', '/api/ramps', {
  who: { audience: 'signed-in' },
  body: json(record({ name, ramp: rampForm })),
  answer: answers(record({ id: identifier })),
  status: 201,
});

/** Forgets a ramp one keeps. */
export const forgetRamp = defineRoute('POST', '/api/ramps/:id/forget', {
  who: { audience: 'requester' },
  params: record({ id: identifier }),
  answer: answers(record({ id: identifier })),
});
