import * as contract from '@/contract/storage';
import { serve } from '@/server/http/serve';
import { readStorage } from '@/server/storage';

export const GET = serve(contract.readStorage, ({ user }) => readStorage(user));
