import { AppError } from '@/core/base/diagnostic';
import type { Form } from '@/contract/forms';
import type { Route } from '@/contract/route';
import { findSignedIn, signedOut } from '../authentication';
import type { SignedIn } from '../authentication';
import { checkValue } from './check-body';
import { failureResponse } from './failure';
import { assertSameOrigin } from './origin';
import { readBytes, readJson } from './read-body';
import { noteUser } from './request-note';
import { bodyOf, spool } from './spool';
import type { SpooledFile } from './spool';

/** What a handler is given: who asks, and what the contract let through. */
export interface Asked<P, Q, B> {
  readonly user: SignedIn;
  readonly params: P;
  readonly query: Q;
  readonly body: B;
  readonly request: Request;
  /** Reads the file that was sent, no further than the contract's limit. */
  readonly readFile: () => Promise<Uint8Array<ArrayBuffer>>;
  /** The same, onto the disk: for files too large to be held. */
  readonly spoolFile: (limit: number) => Promise<SpooledFile>;
  /** The bytes the request says it has; 0 where it does not say. */
  readonly sentBytes: number;
}
interface Context {
  readonly params: Promise<unknown>;
}
/** Who asks where nobody need be signed in. */
const NOBODY: SignedIn = { id: '', name: '', email: '', role: 'artist' };

/** Makes the handler of a route. Errors become answers here and nowhere else. */
export function serve<P, Q, B, A>(
  route: Route<P, Q, B, A>,
  work: (asked: Asked<P, Q, B>) => Promise<A>,
): (request: Request, context: Context) => Promise<Response> {
  return async (request, context) => {
    try {
      assertSameOrigin(request);
      const user = await whoAsks(route, request);
      const params = readNamed(await context.params, route.params, 404);
      const query = readNamed(
        Object.fromEntries(new URL(request.url).searchParams),
        route.query,
        400,
      );
      const body = route.body.kind === 'json' ? await readJson(request, route) : (null as B);
      const limit = route.body.kind === 'file' ? route.body.limit : 0;
      const readFile = (): Promise<Uint8Array<ArrayBuffer>> => readBytes(request, limit);
      const sentBytes = Math.max(0, Number(request.headers.get('content-length') ?? 0) || 0);
      const spoolFile = (most: number): Promise<SpooledFile> =>
        spool(bodyOf(request), Math.min(limit, most));
      const asked = { user, params, query, body, request, readFile, spoolFile, sentBytes };
      const answer = await work(asked);
      return answer instanceof Response ? answer : respond(route, answer);
    } catch (error) {
      return failureResponse(error);
    }
  };
}

async function whoAsks(
  {
    who,
  }:
    | Route<never, never, never, never>
    | { readonly who: Route<unknown, unknown, unknown, unknown>['who'] },
  request: Request,
): Promise<SignedIn> {
  if (who.audience === 'everyone') return NOBODY;
  const user = await findSignedIn(request.headers);
  if (!user) throw signedOut();
  noteUser(request.headers, user.id);
  if (who.roles && !who.roles.includes(user.role)) {
    const roles = who.roles.map((role) => `${role}s`).join(' and ');
    throw new AppError('rights.role', `This is for ${roles}.`, 'Ask one of them.', {
      status: 403,
      kept: 'Nothing was changed.',
    });
  }
  return user;
}

/** Checks what stands in an address. What cannot be a name of anything is not found. */
function readNamed<T>(given: unknown, form: Form<T>, status: 400 | 404): T {
  const checked = checkValue(given ?? {}, form);
  if ('value' in checked) return checked.value as T;
  if (status === 404)
    throw new AppError('request.not-found', 'There is no such thing.', '', { status });
  const at = 'message' in checked ? checked.message : '';
  throw new AppError('request.invalid', `The address is not valid: ${at}.`, '', { status });
}

/** Whether answers are held against the contract before they leave; in tests they always are. */
const checksAnswers = (): boolean =>
  process.env['NODE_ENV'] === 'test' || process.env['BRIGHT_LOOM_CHECK_ANSWERS'] === 'yes';

function respond<P, Q, B, A>(
  { method, path, answer, status }: Route<P, Q, B, A>,
  value: A,
): Response {
  if (answer.kind === 'json' && checksAnswers()) {
    const sent = JSON.parse(JSON.stringify(value)) as unknown;
    const { error } = answer.form.validate(sent, { convert: false });
    if (error)
      throw new Error(`Invariant broken: the answer of ${method} ${path}: ${error.message}`);
  }
  return Response.json(value, { status, headers: { 'Cache-Control': 'no-store' } });
}
