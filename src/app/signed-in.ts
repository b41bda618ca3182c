import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { findSignedIn } from '@/server/authentication';
import type { SignedIn } from '@/server/authentication';

/** Who looks at a page; sends everybody else to the sign-in. */
export async function signedIn(): Promise<SignedIn> {
  const found = await findSignedIn(await headers());
  if (!found) redirect('/sign-in');
  return found;
}
