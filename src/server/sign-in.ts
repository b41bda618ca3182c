import { AppError } from '@/core/base/diagnostic';
import type { Credentials } from '@/contract/session';
import { forgetAttempt, forgetOldAttempts, noteAttempt } from '@/db/queries/sign-in-attempts';
import { dropSessions, findClosed } from '@/db/queries/staff';
import { authentication, forgetSessions } from './authentication';
import { log } from './log';
import { ADDRESS_HEADER } from './settings';

/**
 * Wrong passwords within the window, by account (or by account and a known address) and by address.
 */
export const SIGN_IN_LIMITS = { windowSeconds: 600, ofAccount: 10, ofAddress: 30 } as const;

/** Starts a session, or says why not. Guessing is slowed down by account and by address. */
export async function signIn(
  request: Request,
  { email, password }: Credentials,
): Promise<Response> {
  const account = email.trim().toLowerCase();
  const address = request.headers.get(ADDRESS_HEADER) ?? 'unknown';
  const counts = await noteAttempt({ account, address }, SIGN_IN_LIMITS.windowSeconds);
  // A whole studio may share an address: who is known there is not shut out by others' mistakes.
  const isCrowded = !counts.isKnown && counts.ofAddress > SIGN_IN_LIMITS.ofAddress;
  if (isCrowded || counts.ofAccount > SIGN_IN_LIMITS.ofAccount) throw tooManyAttempts();
  const answer = await authentication().api.signInEmail({
    body: { email: account, password },
    headers: request.headers,
    asResponse: true,
  });
  if (answer.ok) {
    await forgetAttempt(counts.id);
    // Only who knows the password is told.
    const closed = await findClosed(account);
    if (closed !== null) {
      await dropSessions(closed);
      throw new AppError('auth.closed', 'This account is closed.', 'Ask a librarian to open it.', {
        status: 403,
        kept: 'All that was made with it is kept.',
      });
    }
    return withoutStore(answer);
  }
  if (answer.status >= 500) throw new Error(`Signing in failed with ${String(answer.status)}`);
  // A little of what is old goes with every wrong password; nothing else adds rows.
  await forgetOldAttempts(SIGN_IN_LIMITS.windowSeconds * 2);
  log().warn({ address }, 'a wrong password');
  const action = 'Type both again, or ask a librarian for a new password.';
  throw new AppError('auth.wrong', 'E-mail and password do not belong together.', action, {
    status: 401,
  });
}

const tooManyAttempts = (): AppError => {
  const minutes = Math.ceil(SIGN_IN_LIMITS.windowSeconds / 60);
  const action = `Wait ${String(minutes)} minutes, then try again.`;
  return new AppError('auth.too-many', 'There were too many attempts to sign in.', action, {
    status: 429,
    details: { retryAfter: SIGN_IN_LIMITS.windowSeconds },
  });
};

/** Ends the session of a request. */
export async function signOut(request: Request): Promise<Response> {
  const { headers } = request;
  const answer = await authentication().api.signOut({ headers, asResponse: true });
  forgetSessions();
  return withoutStore(answer);
}

function withoutStore(answer: Response): Response {
  answer.headers.set('Cache-Control', 'no-store');
  return answer;
}
