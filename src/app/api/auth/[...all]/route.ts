import { authentication } from '@/server/authentication';
import { failureResponse } from '@/server/http';

async function handle(request: Request): Promise<Response> {
  try {
    return await authentication().handler(request);
  } catch (error) {
    return failureResponse(error);
  }
}
export const GET = handle;
export const POST = handle;
