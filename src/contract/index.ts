import * as groupFiles from './group-files';
import * as health from './health';
import * as images from './images';
import * as jobs from './jobs';
import * as library from './library';
import * as materialFiles from './material-files';
import * as materials from './materials';
import * as models from './models';
import * as people from './people';
import * as presets from './presets';
import type { AnyRoute } from './route';
import * as revisions from './revisions';
import * as sets from './sets';
import * as session from './session';
import * as shelf from './shelf';
import * as states from './states';
import * as storage from './storage';

const isRoute = (value: unknown): value is AnyRoute =>
  typeof value === 'object' && value !== null && 'method' in value && 'path' in value;
const areas = [
  session,
  materials,
  sets,
  materialFiles,
  models,
  images,
  presets,
  library,
  shelf,
  groupFiles,
  states,
  revisions,
  jobs,
  people,
  storage,
  health,
];

/** Every route of the server. */
export const ROUTES: readonly AnyRoute[] = areas.flatMap((area) =>
  Object.values(area as Readonly<Record<string, unknown>>).filter(isRoute),
);
