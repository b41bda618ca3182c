import type { WorkerPool } from '../workers/pool';
import type { Client } from './client';
import type { Clock } from './clock';
import type { Stores } from './stores';

/** What everything that runs behind the editor works with. */
export interface EditorParts {
  readonly stores: Stores;
  readonly pool: WorkerPool;
  readonly client: Client;
  readonly clock: Clock;
}
