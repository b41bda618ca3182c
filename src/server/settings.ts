/** What whoever runs the server decides, read from the environment. */

/** The address under which people reach the studio, without a path. */
export const publicUrl = (): string =>
  (process.env['PUBLIC_URL'] ?? 'http://127.0.0.1:3000').replace(/\/+$/, '');

/**
 * Whether people reach it by HTTPS: cookies are then `Secure`, and browsers are told to stay with
 * HTTPS.
 */
export const isHttps = (): boolean => publicUrl().startsWith('https:');

/** Addresses of proxies whose `X-Forwarded-For` is believed. */
export const trustedProxies = (): readonly string[] =>
  (process.env['TRUSTED_PROXIES'] ?? '').split(/[\s,]+/).filter(Boolean);

/**
 * The header in which our own server tells the application who asks; whatever came from outside is
 * replaced.
 */
export const ADDRESS_HEADER = 'x-bright-loom-address';
