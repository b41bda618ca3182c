import { AppError } from '@/core/base/diagnostic';
import { publicUrl } from '../settings';

const refused = (): AppError =>
  new AppError('request.origin', 'The request comes from another site.', '', {
    status: 403,
    kept: 'Nothing was changed.',
  });

function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host;
  } catch {
    return null;
  }
}

/**
 * Changes must come from our own pages, whatever cookies a browser sends along.
 * @throws AppError for anything but a read that names another origin, or a site that is not ours
 */
export function assertSameOrigin(request: Request): void {
  if (request.method === 'GET' || request.method === 'HEAD') return;
  const site = request.headers.get('sec-fetch-site');
  if (site !== null && site !== 'same-origin' && site !== 'none') throw refused();
  const origin = request.headers.get('origin');
  if (origin === null) return;
  const host = hostOf(origin);
  const ours = [request.headers.get('host'), new URL(publicUrl()).host];
  if (host === null || !ours.includes(host)) throw refused();
}
