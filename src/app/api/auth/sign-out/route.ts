import { signOut as contract } from '@/contract/session';
import { serve } from '@/server/http/serve';
import { signOut } from '@/server/sign-in';

export const POST = serve(contract, ({ request }) => signOut(request));
