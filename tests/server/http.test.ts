import Joi from 'joi';
import { AppError } from '@/core/base/diagnostic';
import { isOutOfSpace, isUnreachable } from '@/db/client';
import { DetailedError, failureResponse, readBody, readBytes, validate } from '@/server/http';
import type { Failure } from '@/server/http';
import { mayPublish, mayWithdraw, projectOf, projectRack } from '@/server/rights';

const answer = async (error: unknown): Promise<{ status: number; body: Failure }> => { const response = failureResponse(error); return { status: response.status, body: await response.json() as Failure }; };
const posted = (body: BodyInit): Request => new Request('http://127.0.0.1/x', { method: 'POST', body });
const schema = Joi.object<{ name: string }>({ name: Joi.string().max(5).required() }).required();

describe('refusals', () => {
  it('carry what happened, what to do, and details where there are some', async () => {
    expect(await answer(new AppError('a.b', 'It is so.', 'Do this.', { status: 409 }))).toEqual({ status: 409, body: { code: 'a.b', message: 'It is so.', action: 'Do this.' } });
    expect((await answer(new DetailedError('a.b', 'm', 'x', 409, { other: 1 }))).body.details).toEqual({ other: 1 });
  });
  it('tell a database that is away, or a full disk, from a fault of ours, and never show its inside', async () => {
    expect(await answer(Object.assign(new Error('connect'), { code: 'ECONNREFUSED' }))).toMatchObject({ status: 503, body: { code: 'database.unreachable' } });
    expect(await answer(new Error('query', { cause: Object.assign(new Error('no room'), { code: '53100' }) }))).toMatchObject({ status: 507, body: { code: 'database.full' } });
    const quiet = jestSpy();
    const inner = await answer(new Error('password=hunter2 at /srv/secret'));
    expect(inner.status).toBe(500);
    expect(JSON.stringify(inner.body)).not.toMatch(/hunter2|secret/);
    quiet();
    expect(isUnreachable(new Error('syntax error'))).toBe(false);
    expect(isUnreachable(new AggregateError([Object.assign(new Error('x'), { code: 'ECONNREFUSED' })]))).toBe(true);
    expect(isOutOfSpace('text')).toBe(false);
  });
});

/** Keeps the log of an expected fault out of the report. */
function jestSpy(): () => void {
  const before = console.error;
  console.error = () => undefined;
  return () => { console.error = before; };
}

describe('bodies', () => {
  it('are read within their limit, whatever they say of their length', async () => {
    expect(await readBytes(posted(new Uint8Array([1, 2, 3])), 3)).toEqual(Uint8Array.of(1, 2, 3));
    await expect(readBytes(posted(new Uint8Array(4)), 3)).rejects.toMatchObject({ code: 'request.too-large', status: 413 });
    expect((await readBytes(new Request('http://127.0.0.1/x'), 3)).length).toBe(0);
  });
  it('are JSON of the form asked for', async () => {
    expect(await readBody(posted('{"name":"Tin"}'), schema)).toEqual({ name: 'Tin' });
    await expect(readBody(posted('{"name":'), schema)).rejects.toMatchObject({ code: 'request.not-json' });
    await expect(readBody(posted('{"name":"far too long"}'), schema)).rejects.toMatchObject({ code: 'request.invalid' });
    await expect(readBody(posted('{"name":"a","role":"librarian"}'), schema)).rejects.toMatchObject({ code: 'request.invalid' });
    expect(() => validate({ name: 5 }, schema)).toThrow(/must be a string/);
  });
});

describe('rights', () => {
  it('let everyone publish to their projects, authors and librarians to the studio, librarians withdraw', () => {
    const rack = projectRack('ferry');
    expect(projectOf(rack)).toBe('ferry');
    expect(projectOf('studio')).toBeNull();
    expect((['artist', 'author', 'librarian'] as const).map((role) => [mayPublish(role, 'studio', ['ferry']), mayPublish(role, rack, ['ferry']), mayPublish(role, rack, ['heron']), mayPublish(role, 'elsewhere', ['ferry']), mayWithdraw(role)])).toEqual([
      [false, true, false, false, false], [true, true, false, false, false], [true, true, false, false, true],
    ]);
  });
});
