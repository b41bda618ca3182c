import { signIn as contract } from '@/contract/session';
import { serve } from '@/server/http/serve';
import { signIn } from '@/server/sign-in';

export const POST = serve(contract, ({ request, body }) => signIn(request, body));
