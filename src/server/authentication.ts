import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { AppError } from '@/core/base/diagnostic';
import { database } from '@/db/client';
import { account, session, user, verification } from '@/db/schema/accounts';

export const ROLES = ['artist', 'author', 'librarian'] as const;
export type Role = (typeof ROLES)[number];
export interface SignedIn { readonly id: string; readonly name: string; readonly email: string; readonly role: Role }

function create() {
  const url = process.env['BETTER_AUTH_URL'] ?? 'http://127.0.0.1:3000';
  return betterAuth({
    database: drizzleAdapter(database(), { provider: 'pg', schema: { user, session, account, verification } }),
    baseURL: url,
    trustedOrigins: [url, url.replace('127.0.0.1', 'localhost')],
    emailAndPassword: { enabled: true, disableSignUp: true },
    user: { additionalFields: { role: { type: 'string', input: false, defaultValue: 'artist' } } },
    session: { expiresIn: 60 * 60 * 24 * 14 },
    rateLimit: { enabled: true, window: 60, max: 600, customRules: { '/sign-in/email': { window: 60, max: 30 } } },
    telemetry: { enabled: false },
  });
}
let made: ReturnType<typeof create> | undefined;
export const authentication = (): ReturnType<typeof create> => (made ??= create());

/** Who sent a request; null when nobody is signed in. */
export async function findSignedIn(headers: Headers): Promise<SignedIn | null> {
  const found = await authentication().api.getSession({ headers });
  if (!found) return null;
  const role = ROLES.find((each) => each === found.user.role) ?? 'artist';
  return { id: found.user.id, name: found.user.name, email: found.user.email, role };
}

/** Who sent a request. Throws when nobody is signed in. */
export async function requireSignedIn(headers: Headers): Promise<SignedIn> {
  const found = await findSignedIn(headers);
  if (!found) throw new AppError('auth.required', 'You are not signed in.', 'Sign in again; unsaved work stays in this browser.', { status: 401 });
  return found;
}
