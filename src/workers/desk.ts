import * as Comlink from 'comlink';
import type { LoadedModels } from '../core/evaluate/loaded-model';
import type { Answer } from './answer';

/** Does work when every announced model has come; turns anything thrown into data. */
export type Answering = <T>(work: () => T | Promise<T>) => Promise<Answer<T>>;

/** What the calls of a worker share. */
export interface Desk {
  readonly models: LoadedModels;
  readonly answer: Answering;
}

/** Sends an array's memory along instead of a copy of it. */
export const sent = <T>(value: T, ...buffers: readonly ArrayBuffer[]): T =>
  Comlink.transfer(value, [...buffers]);
