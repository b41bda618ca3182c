import type { signIn } from '@/contract/session';
import { authentication } from '@/server/authentication';
import { LIBRARIAN, PASSWORD } from './studio';

/** Signs the bench's librarian in. @returns the cookie */
export async function signInWith({ path }: typeof signIn): Promise<string> {
  const answer = await authentication().handler(
    new Request(`http://127.0.0.1:3000${path}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', origin: 'http://127.0.0.1:3000' },
      body: JSON.stringify({ email: LIBRARIAN.email, password: PASSWORD }),
    }),
  );
  return answer.headers.get('set-cookie')?.split(';')[0] ?? '';
}
