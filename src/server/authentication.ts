import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { AppError } from '@/core/base/diagnostic';
import { ROLES } from '@/contract/route';
import type { Role } from '@/contract/route';
import { database } from '@/db/client';
import { account, session, user, verification } from '@/db/schema/accounts';
import { ADDRESS_HEADER, isHttps, publicUrl } from './settings';

export type { Role };
export interface SignedIn {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
}

const SESSION_SECONDS = 60 * 60 * 24 * 14;

function create() {
  return betterAuth({
    database: drizzleAdapter(database(), {
      provider: 'pg',
      schema: { user, session, account, verification },
    }),
    baseURL: publicUrl(),
    secret: process.env['BETTER_AUTH_SECRET'],
    emailAndPassword: { enabled: true, disableSignUp: true },
    user: {
      additionalFields: {
        role: { type: 'string', input: false, defaultValue: 'artist' },
        closedAt: { type: 'date', input: false, required: false },
      },
    },
    session: { expiresIn: SESSION_SECONDS },
    // Guesses are slowed down by `signIn`, over all processes and by account.
    rateLimit: { enabled: false },
    advanced: {
      useSecureCookies: isHttps(),
      ipAddress: { ipAddressHeaders: [ADDRESS_HEADER] },
    },
    telemetry: { enabled: false },
    logger: { disabled: true },
  });
}
let made: ReturnType<typeof create> | undefined;
export const authentication = (): ReturnType<typeof create> => (made ??= create());

/**
 * So long a session that was found is believed without asking the database again, milliseconds: a
 * page asks for many things at once. Signing out is known at once.
 */
const BELIEVED_MS = 1500;
const MOST_BELIEVED = 1000;
interface Believed {
  readonly at: number;
  readonly user: Promise<SignedIn | null>;
}
const kept = globalThis as unknown as { brightLoomSessions?: Map<string, Believed> };
const believed = (): Map<string, Believed> =>
  (kept.brightLoomSessions ??= new Map<string, Believed>());

/** Who sent a request; null when nobody is signed in. */
export function findSignedIn(headers: Headers): Promise<SignedIn | null> {
  const cookie = headers.get('cookie') ?? '';
  const known = believed().get(cookie);
  if (known && Date.now() - known.at < BELIEVED_MS) return known.user;
  const user = readSession(headers);
  if (believed().size >= MOST_BELIEVED) believed().clear();
  believed().set(cookie, { at: Date.now(), user });
  const forget = (): void => {
    if (believed().get(cookie)?.user === user) believed().delete(cookie);
  };
  // Nobody, and what could not be found out, is asked for anew each time.
  user.then((found) => {
    if (!found) forget();
  }, forget);
  return user;
}

/** Sessions that ended in this process are not believed any longer. */
export const forgetSessions = (): void => {
  believed().clear();
};

async function readSession(headers: Headers): Promise<SignedIn | null> {
  const found = await authentication().api.getSession({ headers });
  // Also one that was signed in just while it was closed.
  if (!found || found.user.closedAt) return null;
  const role = ROLES.find((each) => each === found.user.role) ?? 'artist';
  return { id: found.user.id, name: found.user.name, email: found.user.email, role };
}

export const signedOut = (): AppError =>
  new AppError('auth.required', 'You are not signed in.', 'Sign in again.', {
    status: 401,
    kept: 'Unsaved work stays in this browser.',
  });
