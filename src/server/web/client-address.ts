import type { IncomingHttpHeaders } from 'node:http';

/**
 * Who really asks: the other end of the connection, or, where that is a proxy we trust, whom the
 * proxy names. `X-Forwarded-For` grows to the right; the last entry that is no proxy of ours was
 * written by one.
 */
export function clientAddress(
  remote: string,
  headers: IncomingHttpHeaders,
  trusted: readonly string[],
): string {
  const peer = plainAddress(remote);
  if (!trusted.includes(peer)) return peer;
  const given = headers['x-forwarded-for'];
  const chain = (Array.isArray(given) ? given.join(',') : (given ?? '')).split(',');
  const named = chain.map((each) => plainAddress(each.trim())).filter(Boolean);
  return named.findLast((each) => !trusted.includes(each)) ?? peer;
}

/** Headers with which a client could pretend to be behind a proxy. */
export const FORWARDED = [
  'x-forwarded-for',
  'x-forwarded-host',
  'x-forwarded-proto',
  'x-forwarded-port',
  'forwarded',
];

/** An IPv4 address as such, where it comes as an IPv6 one. */
const plainAddress = (address: string): string =>
  address.replace(/^::ffff:(?=\d+\.)/, '').slice(0, 64);
