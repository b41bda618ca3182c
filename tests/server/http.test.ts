import Joi from 'joi';
import { AppError } from '@/core/base/diagnostic';
import { isOutOfSpace, isUnreachable } from '@/db/client';
import { form } from '@/contract/forms';
import type { Failure } from '@/contract/failure';
import { checkBody } from '@/server/http/check-body';
import { failureResponse } from '@/server/http/failure';
import { readBytes } from '@/server/http/read-body';
import { loggable } from '@/server/log';
import { mayPublish, mayWithdraw, findProject, projectRack } from '@/server/rights';
import { USUAL_RULES } from '@/server/rules';

const answer = async (error: unknown): Promise<{ status: number; body: Failure }> => {
  const response = failureResponse(error);
  return { status: response.status, body: (await response.json()) as Failure };
};

describe('refusals', () => {
  it('carry what happened, what to do, and details where there are some', async () => {
    expect(
      await answer(new AppError('a.b', 'It is so.', 'Do this.', { status: 409, kept: 'All.' })),
    ).toEqual({
      status: 409,
      body: { code: 'a.b', message: 'It is so.', kept: 'All.', action: 'Do this.' },
    });
    expect(
      (await answer(new AppError('a.b', 'm', 'x', { status: 409, details: { other: 1 } }))).body
        .details,
    ).toEqual({ other: 1 });
  });
  it(
    'tell a database that is away, or a full disk, from a fault of ours, and never show ' +
      'its inside',
    async () => {
      expect(
        await answer(Object.assign(new Error('connect'), { code: 'ECONNREFUSED' })),
      ).toMatchObject({ status: 503, body: { code: 'database.unreachable' } });
      expect(
        await answer(
          new Error('query', { cause: Object.assign(new Error('no room'), { code: '53100' }) }),
        ),
      ).toMatchObject({ status: 507, body: { code: 'database.full' } });
      const inner = await answer(new Error('password=hunter2 at /srv/secret'));
      expect(inner.status).toBe(500);
      expect(JSON.stringify(inner.body)).not.toMatch(/hunter2|secret/);
      expect(isUnreachable(new Error('syntax error'))).toBe(false);
      expect(
        isUnreachable(
          new AggregateError([Object.assign(new Error('x'), { code: 'ECONNREFUSED' })]),
        ),
      ).toBe(true);
      expect(isOutOfSpace('text')).toBe(false);
    },
  );
});

describe('the log', () => {
  it(
    'keeps the kind and place of an error of the database, and nothing that was in its ' +
      'statement',
    () => {
      const cause = Object.assign(new Error('duplicate key value: token-of-maren'), {
        code: '23505',
        severity: 'ERROR',
        detail: 'token-of-maren',
      });
      const error = Object.assign(
        new Error('Failed query: select $1\nparams: token-of-maren', { cause }),
        { query: 'select $1', params: ['token-of-maren'] },
      );
      const line = JSON.stringify(loggable(error));
      expect(line).toContain('select $1');
      expect(line).toContain('23505');
      expect(line).not.toContain('token-of-maren');
    },
  );
});

describe('bodies', () => {
  const posted = (body: BodyInit): Request =>
    new Request('http://127.0.0.1/x', { method: 'POST', body });
  const schema = form<{ name: string }>(
    Joi.object({ name: Joi.string().max(5).required() }).required(),
  );
  const check = (text: string) => checkBody(new TextEncoder().encode(text), schema);
  it('are read within their limit, whatever they say of their length', async () => {
    expect(await readBytes(posted(new Uint8Array([1, 2, 3])), 3)).toEqual(Uint8Array.of(1, 2, 3));
    await expect(readBytes(posted(new Uint8Array(4)), 3)).rejects.toMatchObject({
      code: 'request.too-large',
      status: 413,
    });
    expect((await readBytes(new Request('http://127.0.0.1/x'), 3)).length).toBe(0);
  });
  it('are JSON of the form asked for', () => {
    expect(check('{"name":"Tin"}')).toEqual({ value: { name: 'Tin' } });
    expect(check('{"name":')).toEqual({ fault: 'not-json' });
    expect(checkBody(Uint8Array.of(0x22, 0xff, 0x22), schema)).toEqual({ fault: 'not-json' });
    expect(check('{"name":"far too long"}')).toMatchObject({ fault: 'invalid', pointer: '/name' });
    expect(check('{"name":"a","role":"librarian"}')).toMatchObject({
      fault: 'invalid',
      pointer: '/role',
    });
  });
  it(
    'hold no NUL, no half characters, no endless lists and no endless nesting, and the ' +
      'place is told',
    () => {
      expect(check('{"name":"a\\u0000"}')).toMatchObject({ fault: 'invalid', pointer: '/name' });
      expect(check('{"a\\ud800":1}')).toMatchObject({ fault: 'invalid' });
      expect(check(`{"name":[${'1,'.repeat(30000)}1]}`)).toMatchObject({
        fault: 'invalid',
        pointer: '/name',
      });
      expect(check(`${'['.repeat(50000)}${']'.repeat(50000)}`)).toMatchObject({
        fault: 'invalid',
        message: expect.stringContaining('nests') as string,
      });
    },
  );
});

describe('rights', () => {
  it(
    'let everyone publish to their projects, authors and librarians to the studio, ' +
      'librarians withdraw',
    () => {
      const rack = projectRack('ferry');
      expect(findProject(rack)).toBe('ferry');
      expect(findProject('studio')).toBeNull();
      expect(
        (['artist', 'author', 'librarian'] as const).map((role) => [
          mayPublish({ id: 'p', role }, 'studio', ['ferry'], USUAL_RULES),
          mayPublish({ id: 'p', role }, rack, ['ferry'], USUAL_RULES),
          mayPublish({ id: 'p', role }, rack, ['heron'], USUAL_RULES),
          mayPublish({ id: 'p', role }, 'elsewhere', ['ferry'], USUAL_RULES),
          mayWithdraw(role),
        ]),
      ).toEqual([
        [false, true, false, false, false],
        [true, true, false, false, false],
        [true, true, false, false, true],
      ]);
    },
  );
});
