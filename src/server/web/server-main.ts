/**
 * The web server: Next behind a door of our own, which knows who really asks, lets only so many in
 * at a time, answers pages while the database cannot, and writes one line a request.
 */
import { randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import type { IncomingMessage, ServerResponse } from 'node:http';
import next from 'next';
import { isAnswering, wasLostLately } from '@/db/client';
import { REQUEST_HEADER, takeUser } from '../http/request-note';
import { log, loggable, sendConsoleToLog } from '../log';
import { ADDRESS_HEADER, isHttps, trustedProxies } from '../settings';
import { RETRY_SECONDS, busyPage } from './busy-page';
import type { BusyReason } from './busy-page';
import { FORWARDED, clientAddress } from './client-address';
import { Turnstile } from './turnstile';

const host = process.env['HOST'] ?? '127.0.0.1';
const port = Number(process.env['PORT'] ?? 3000);
/** Pages draw on the database several times each, answers of the API once or twice. */
const pages = new Turnstile(8, 1000, 30_000);
const answers = new Turnstile(32, 2000, 30_000);
/** A client that reads slowly does not keep its place for longer. */
const LONGEST_STAY_MS = 10_000;
const HALF_YEAR = 'max-age=15768000; includeSubDomains';

type Kind = 'file' | 'stream' | 'api' | 'page';
function kindOf(path: string): Kind {
  if (path.startsWith('/_next/') || path === '/favicon.ico') return 'file';
  if (path === '/api/jobs/events' || path === '/api/health') return 'stream';
  return path.startsWith('/api/') ? 'api' : 'page';
}

/** Tells the application who asks, in headers that nobody outside can set. */
function introduce(request: IncomingMessage, id: string): void {
  const { headers, socket } = request;
  const proxies = trustedProxies();
  const remote = socket.remoteAddress ?? '';
  const address = clientAddress(remote, headers, proxies);
  if (!proxies.includes(remote))
    for (const name of FORWARDED) Reflect.deleteProperty(headers, name);
  headers['x-forwarded-for'] = address;
  headers[ADDRESS_HEADER] = address;
  headers[REQUEST_HEADER] = id;
}

function noteRequest(
  request: IncomingMessage,
  response: ServerResponse,
  id: string,
  path: string,
): void {
  const began = performance.now();
  response.on('close', () => {
    const { method } = request;
    const ms = Math.round(performance.now() - began);
    const status = response.writableFinished ? response.statusCode : 499;
    log().info({ id, method, path, status, ms, user: takeUser(id) }, 'request');
  });
}

function refuse(response: ServerResponse, kind: Kind, reason: BusyReason): void {
  const headers = { 'Retry-After': String(RETRY_SECONDS), 'Cache-Control': 'no-store' };
  if (kind === 'page') {
    response.writeHead(503, {
      ...headers,
      'Content-Type': 'text/html; charset=utf-8',
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
    });
    response.end(busyPage(reason));
    return;
  }
  response.writeHead(503, { ...headers, 'Content-Type': 'application/json' });
  const kept = 'Your work is kept in this browser and saved when it is back.';
  const action = 'Try again in a moment.';
  response.end(
    JSON.stringify({ code: 'server.busy', message: 'The server is busy.', kept, action }),
  );
}

/** Lets a request in when it is its turn. @returns false where it was refused */
async function admit(kind: Kind, method: string, response: ServerResponse): Promise<boolean> {
  // Uploads take their time outside the database; only what reads is let in one by one.
  const turnstile = kind === 'page' ? pages : kind === 'api' && method === 'GET' ? answers : null;
  if (!turnstile) return true;
  const leave = await turnstile.enter();
  if (!leave) {
    refuse(response, kind, 'busy');
    return false;
  }
  const late = setTimeout(leave, LONGEST_STAY_MS);
  response.on('close', () => {
    clearTimeout(late);
    leave();
  });
  if (kind !== 'page' || (await isAnswering())) return true;
  refuse(response, kind, 'database');
  return false;
}

sendConsoleToLog();
const app = next({ dev: false, hostname: host, port, dir: process.cwd() });
await app.prepare();
const handle = app.getRequestHandler();

async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const id = randomUUID();
  const path = (request.url ?? '/').split('?')[0] ?? '/';
  const method = request.method ?? 'GET';
  const kind = kindOf(path);
  introduce(request, id);
  noteRequest(request, response, id, path);
  if (isHttps()) response.setHeader('Strict-Transport-Security', HALF_YEAR);
  if (path.startsWith('/api/')) {
    response.setHeader('Content-Security-Policy', "default-src 'none'; frame-ancestors 'none'");
  }
  if ((kind === 'page' || kind === 'file') && method !== 'GET' && method !== 'HEAD') {
    response.writeHead(405, { Allow: 'GET, HEAD', Connection: 'close' }).end();
    return;
  }
  if (kind === 'page') excuse(response);
  if (await admit(kind, method, response)) await handle(request, response);
}

/** A page that failed as the database went away says that it may be asked for again. */
function excuse(response: ServerResponse): void {
  const writeHead = response.writeHead.bind(response);
  const excused = (...given: Parameters<typeof writeHead>): ServerResponse => {
    const [status] = given;
    if (status !== 500 || !wasLostLately()) return writeHead(...given);
    response.setHeader('Retry-After', String(RETRY_SECONDS));
    response.statusCode = 503;
    return writeHead(503);
  };
  response.writeHead = excused as typeof response.writeHead;
}

/**
 * What is still sent after the answer is read for a moment, so that the answer gets through, and no
 * longer.
 */
const LINGER_MS = 1500;
function endUnread(request: IncomingMessage, response: ServerResponse): void {
  response.on('finish', () => {
    if (request.complete) return;
    setTimeout(() => {
      if (!request.complete) request.socket.destroy();
    }, LINGER_MS).unref();
  });
}

const server = createServer((request, response) => {
  endUnread(request, response);
  answer(request, response).catch((error: unknown) => {
    log().error(loggable(error), 'a request could not be answered');
    if (!response.headersSent) response.writeHead(500);
    response.end();
  });
});
server.requestTimeout = 10 * 60_000;
server.headersTimeout = 20_000;
server.listen(port, host, () => {
  log().info({ host, port }, 'server ready');
});

process.on('unhandledRejection', (error) => {
  log().error(loggable(error), 'an error that nobody handled');
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    // Requests under way are answered; streams and idle connections end.
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), 4000).unref();
  });
}
