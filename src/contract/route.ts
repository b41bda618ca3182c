import type { Form } from './forms';
import { record } from './forms';

export const ROLES = ['artist', 'author', 'librarian'] as const;
export type Role = (typeof ROLES)[number];

/**
 * Whom a route answers.
 * - `everyone`: no session is needed.
 * - `signed-in`: anybody of the studio.
 * - `readers`: members of the project that the thing named belongs to; to others it does not exist
 *   (404).
 * - `members`: members of the project that the request names; others are refused (403).
 * - `requester`: whoever made the thing named; to others it does not exist (404).
 */
export type Audience = 'everyone' | 'signed-in' | 'readers' | 'members' | 'requester';
export interface Who {
  readonly audience: Audience;
  /** Only these roles; others are refused (403). Absent: all. */
  readonly roles?: readonly Role[];
  /** Roles that belong to every audience, whatever their projects. */
  readonly always?: readonly Role[];
}

export type Body<B> =
  | { readonly kind: 'none' }
  /** JSON of at most so many bytes. */
  | { readonly kind: 'json'; readonly form: Form<B>; readonly limit: number }
  /** A file of at most so many bytes, read by the handler once it knows that it may be sent. */
  | { readonly kind: 'file'; readonly limit: number };

export type Answer<A> =
  | { readonly kind: 'json'; readonly form: Form<A> }
  /** Bytes, an event stream or nothing: the handler makes the response. */
  | { readonly kind: 'response' };

/**
 * One thing that can be asked of the server. Handlers and the browser's calls are both made from
 * it.
 */
export interface Route<P, Q, B, A> {
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH';
  /** Parts that begin with a colon are parameters. */
  readonly path: `/api/${string}`;
  readonly who: Who;
  readonly params: Form<P>;
  readonly query: Form<Q>;
  readonly body: Body<B>;
  readonly answer: Answer<A>;
  /** Of a request that was granted. */
  readonly status: number;
}
export type AnyRoute = Route<unknown, unknown, unknown, unknown>;

type Empty = Readonly<Record<string, never>>;
const NOTHING = record({});

interface Given<P, Q, B, A> {
  readonly who: Who;
  readonly params?: Form<P>;
  readonly query?: Form<Q>;
  readonly body?: Body<B>;
  readonly answer: Answer<A>;
  readonly status?: number;
}

/** States a route; what is left out is nothing. */
export function defineRoute<P = Empty, Q = Empty, B = null, A = Response>(
  method: Route<P, Q, B, A>['method'],
  path: Route<P, Q, B, A>['path'],
  given: Given<P, Q, B, A>,
): Route<P, Q, B, A> {
  return {
    method,
    path,
    who: given.who,
    params: given.params ?? (NOTHING as unknown as Form<P>),
    query: given.query ?? (NOTHING as unknown as Form<Q>),
    body: given.body ?? { kind: 'none' },
    answer: given.answer,
    status: given.status ?? 200,
  };
}

const KB = 1024;
/** Most bytes of an ordinary request. */
export const SMALL_BODY = 64 * KB;
export const json = <B>(form: Form<B>, limit = SMALL_BODY): Body<B> => ({
  kind: 'json',
  form,
  limit,
});
export const answers = <A>(form: Form<A>): Answer<A> => ({ kind: 'json', form });
export const RESPONSE: Answer<Response> = { kind: 'response' };
