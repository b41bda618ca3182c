import { PictureWatch } from '@/state/picture-age';
import type { PictureAge } from '@/state/picture-age';
import { FakeClock } from './fakes';

describe('the age of the picture', () => {
  it('is old within a quarter of a second, late after one, and current when all is drawn', () => {
    const clock = new FakeClock();
    const told: [PictureAge, number][] = [];
    let isBusy = true;
    const watch = new PictureWatch(
      clock,
      () => isBusy,
      (...news) => told.push(news),
    );
    watch.changed();
    clock.pass(150);
    expect(told).toEqual([]);
    clock.pass(100);
    expect(told).toEqual([['old', 0]]);
    // Another change meanwhile does not make it younger.
    watch.changed();
    clock.pass(1000);
    expect(told.slice(1)).toEqual([['late', 1]]);
    clock.pass(1000);
    expect(told.slice(2)).toEqual([['late', 2]]);
    isBusy = false;
    clock.pass(100);
    expect(told.slice(3)).toEqual([['current', 0]]);
    watch.close();
  });
  it('says nothing of what is drawn at once', () => {
    const clock = new FakeClock();
    const told: PictureAge[] = [];
    const watch = new PictureWatch(
      clock,
      () => false,
      (age) => told.push(age),
    );
    watch.changed();
    clock.pass(1000);
    expect(told).toEqual(['current']);
  });
});
