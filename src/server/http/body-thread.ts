/**
 * Runs in a thread of its own: parses and checks the JSON of a request, so that no request holds up
 * the others.
 */
import { ROUTES } from '@/contract/index';
import { checkBody } from './check-body';
import type { BodyCheck } from './check-body';

export interface BodyTask {
  readonly method: string;
  readonly path: string;
  readonly bytes: Uint8Array;
}

export default function check({ method, path, bytes }: BodyTask): BodyCheck {
  const route = ROUTES.find((each) => each.method === method && each.path === path);
  if (route?.body.kind !== 'json')
    throw new Error(`Invariant broken: ${method} ${path} has no body`);
  return checkBody(bytes, route.body.form);
}
