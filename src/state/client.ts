import { call, getMeshMap, getModel } from './api';
import { read, readOnce } from './query-client';

/** What the editor asks the server by. */
export interface Client {
  readonly call: typeof call;
  /** Reads once; tries again what did not come through. */
  readonly read: typeof read;
  readonly readOnce: typeof readOnce;
  readonly modelFile: typeof getModel;
  readonly meshMap: typeof getMeshMap;
}

export const client: Client = {
  call,
  read,
  readOnce,
  modelFile: getModel,
  meshMap: getMeshMap,
};
