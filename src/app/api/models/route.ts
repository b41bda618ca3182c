import * as contract from '@/contract/models';
import { serve } from '@/server/http/serve';
import { listModels, uploadModel } from '@/server/models';

export const GET = serve(contract.listModels, async ({ user }) => ({
  models: await listModels(user),
}));
export const POST = serve(contract.uploadModel, ({ user, query, readFile, sentBytes }) =>
  uploadModel(user, query, readFile, sentBytes),
);
