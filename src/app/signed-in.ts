import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { findSignedIn } from '@/server/authentication';
import type { SignedIn } from '@/server/authentication';
import { noteUser } from '@/server/http/request-note';

/** Who looks at a page; sends everybody else to the sign-in. */
export async function signedIn(): Promise<SignedIn> {
  const sent = await headers();
  const found = await findSignedIn(sent);
  if (!found) redirect('/sign-in');
  noteUser(sent, found.id);
  return found;
}
