import { identifier, list, object, record, sha256 } from '@/contract/forms';
import { publicationForm, sheetRequestForm } from '@/contract/library';
import { preparationForm } from '@/contract/model-forms';
import type { MapSettings } from '@/core/mesh/analysis';
import { AppError } from '@/core/base/diagnostic';
import { findOwner } from '@/db/queries/owners';
import { runMap } from '../mesh-maps';
import { publish } from '../publish';
import { bringReleases } from '../group-files';
import { tidy } from '../housekeeping';
import { lookAtBatch } from '../outlooks';
import { drawPresetSwatch } from '../preset-swatch';
import { makeSheet } from '../proof-sheet';
import { drawState } from '../states';
import { drawSwatch } from '../swatches';
import { defineJob } from './define-job';
import type { JobKind } from './define-job';
import {
  CONSEQUENCES,
  GROUP_FILE,
  HOUSEKEEPING,
  MESH_MAP,
  PRESET_SWATCH,
  PUBLICATION,
  SHEET,
  STATE_PICTURE,
  SWATCH,
} from './lanes';

const publication = defineJob({
  ...PUBLICATION,
  tries: 3,
  timeoutSeconds: 180,
  form: publicationForm,
  run: async (request, { userId, report }) => {
    if (userId === null) throw new AppError('job.nobody', 'Whoever asked for this is gone.', '');
    return publish(userId, request, report);
  },
});

const swatch = defineJob({
  ...SWATCH,
  tries: 2,
  timeoutSeconds: 120,
  form: record({ materialId: identifier }),
  run: async ({ materialId }) => {
    const owner = await findOwner(materialId);
    if (owner) await drawSwatch(materialId, owner);
    return {};
  },
});

const presetSwatch = defineJob({
  ...PRESET_SWATCH,
  tries: 2,
  timeoutSeconds: 120,
  form: record({ presetId: identifier }),
  run: async ({ presetId }, { userId }) => {
    if (userId !== null) await drawPresetSwatch(presetId, userId);
    return {};
  },
});

const statePicture = defineJob({
  ...STATE_PICTURE,
  tries: 2,
  timeoutSeconds: 120,
  form: record({ materialId: identifier, stateId: identifier }),
  run: async ({ materialId, stateId }, { userId }) => {
    if (userId !== null) await drawState(userId, materialId, stateId);
    return {};
  },
});

const meshMap = defineJob({
  ...MESH_MAP,
  tries: 2,
  timeoutSeconds: 1800,
  form: record({
    blobHash: sha256,
    preparation: preparationForm,
    settings: object<MapSettings>(),
  }),
  run: async (task, { report }) => {
    await runMap(task, report);
    return {};
  },
});

const sheet = defineJob({
  ...SHEET,
  tries: 2,
  timeoutSeconds: 600,
  form: sheetRequestForm,
  run: async (request, { userId, report }) => {
    if (userId !== null) await makeSheet(userId, request, report);
    return {};
  },
});

const consequences = defineJob({
  ...CONSEQUENCES,
  tries: 3,
  timeoutSeconds: 600,
  form: record({ outlookId: identifier, materialIds: list(identifier, 100) }),
  run: async (request, { userId, report }) => {
    if (userId !== null) await lookAtBatch(userId, request, report);
    return { outlookId: request.outlookId };
  },
});

const groupFile = defineJob({
  ...GROUP_FILE,
  tries: 2,
  timeoutSeconds: 600,
  form: record({ blobHash: sha256 }),
  run: async (request, { userId, report }) => {
    if (userId === null) throw new AppError('job.nobody', 'Whoever asked for this is gone.', '');
    return bringReleases(userId, request, report);
  },
});

const housekeeping = defineJob({
  ...HOUSEKEEPING,
  tries: 2,
  timeoutSeconds: 1800,
  form: record({}),
  run: async (_, { report }) => ({ ...(await tidy(report)) }),
});

const ALL = [
  publication,
  swatch,
  presetSwatch,
  statePicture,
  meshMap,
  sheet,
  consequences,
  groupFile,
  housekeeping,
] as unknown as readonly JobKind<unknown>[];

/** @returns undefined for a kind that this release does not know */
export const findKind = (kind: string): JobKind<unknown> | undefined =>
  ALL.find((each) => each.kind === kind);
