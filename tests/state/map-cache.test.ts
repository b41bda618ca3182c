import { keepNewest } from '@/state/map-cache';

const row = (key: string, bytes: number, at: number) => ({ key, bytes, at });

describe('maps kept in the browser', () => {
  it('stay within a size, the ones used longest ago go first, and the newest always stays', () => {
    const rows = [row('old', 40, 1), row('new', 40, 9), row('between', 40, 5)];
    expect(keepNewest(rows, 100).map(({ key }) => key)).toEqual(['new', 'between']);
    expect(keepNewest(rows, 10).map(({ key }) => key)).toEqual(['new']);
    expect(keepNewest([], 10)).toEqual([]);
  });
});
