import { AppError } from '@/core/base/diagnostic';
import { describeError, problemText } from '@/core/base/problem';
import { assertSameOrigin } from '@/server/http/origin';
import { busyPage } from '@/server/web/busy-page';
import { clientAddress } from '@/server/web/client-address';
import { Turnstile } from '@/server/web/turnstile';

describe('who asks', () => {
  it('is the other end of the connection, whatever headers say', () => {
    expect(clientAddress('::ffff:10.0.0.7', { 'x-forwarded-for': '1.2.3.4' }, [])).toBe('10.0.0.7');
    expect(clientAddress('10.0.0.7', { 'x-forwarded-for': '1.2.3.4' }, ['10.0.0.1'])).toBe(
      '10.0.0.7',
    );
  });
  it('is whom a trusted proxy names, the last that is no proxy', () => {
    const headers = { 'x-forwarded-for': '6.6.6.6, 1.2.3.4, 10.0.0.2' };
    expect(clientAddress('10.0.0.1', headers, ['10.0.0.1', '10.0.0.2'])).toBe('1.2.3.4');
    expect(clientAddress('10.0.0.1', {}, ['10.0.0.1'])).toBe('10.0.0.1');
  });
});

describe('the turnstile', () => {
  it('lets so many in, the others in their order, and none for ever', async () => {
    const turnstile = new Turnstile(2, 2, 60);
    const [a, b] = [await turnstile.enter(), await turnstile.enter()];
    const order: string[] = [];
    const third = turnstile.enter().then((leave) => {
      order.push('third');
      return leave;
    });
    const fourth = turnstile.enter().then((leave) => {
      order.push(leave ? 'fourth' : 'fourth waited too long');
      return leave;
    });
    expect(await turnstile.enter()).toBeNull();
    a?.();
    a?.();
    expect(await third).not.toBeNull();
    expect(await fourth).toBeNull();
    expect(order).toEqual(['third', 'fourth waited too long']);
    b?.();
    expect(await turnstile.enter()).not.toBeNull();
  });
});

describe('changes', () => {
  const asked =
    (headers: Record<string, string>, method = 'POST') =>
    (): void => {
      assertSameOrigin(
        new Request('http://127.0.0.1:3000/api/x', {
          method,
          headers: { host: '127.0.0.1:3000', ...headers },
        }),
      );
    };
  it('come from our own pages only; an origin that is none is another’s', () => {
    for (const origin of [
      'https://elsewhere.example',
      'null',
      'not a url',
      'http://127.0.0.1:99999',
    ])
      expect(asked({ origin })).toThrow(AppError);
    expect(asked({ 'sec-fetch-site': 'cross-site' })).toThrow(AppError);
    expect(
      asked({ origin: 'http://127.0.0.1:3000', 'sec-fetch-site': 'same-origin' }),
    ).not.toThrow();
    expect(asked({})).not.toThrow();
    expect(asked({ origin: 'https://elsewhere.example' }, 'GET')).not.toThrow();
  });
});

describe('what people are told', () => {
  it('says what happened, what was kept and what to do, of anything that is thrown', () => {
    const known = new AppError('a.b', 'It is full.', 'Make room.', { kept: 'Nothing was lost.' });
    expect(describeError(known)).toEqual({
      code: 'a.b',
      message: 'It is full.',
      kept: 'Nothing was lost.',
      action: 'Make room.',
    });
    expect(problemText(describeError(known))).toBe('It is full. Nothing was lost. Make room.');
    expect(describeError(new TypeError('x is not a function'))).toMatchObject({
      code: 'unexpected',
      message: 'x is not a function',
      action: expect.stringContaining('report') as string,
    });
    expect(describeError('words').message).toBe('words');
  });
  it('while the studio cannot answer is a page that needs nothing of it', () => {
    expect(busyPage('database')).toContain('The database cannot be reached');
    expect(busyPage('busy')).not.toMatch(/<script|<link|src=/);
  });
});
