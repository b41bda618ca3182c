/** How a large board is to work with. */
import { measureBoard } from '../editor/board';
import { measureDrag, measureMemory } from '../editor/dragging';
import { openingOf } from '../editor/opening';
import { milliseconds, times } from '../runner/part';
import type { NoteRow, Part } from '../runner/part';
import { sized } from '../size';
import { APPLICATION } from './stage';

async function frames(row: NoteRow): Promise<void> {
  for (const { cards, ours, control } of await measureBoard(sized([100, 300, 1000], [30])))
    for (const act of ['pan', 'zoom'] as const)
      row(
        `${act}, ${String(cards)} cards`,
        `${milliseconds(ours[act])} against ${milliseconds(control[act])} of a bare board ` +
          `(${times(ours[act] / control[act])})`,
        ours[act],
      );
}

async function drag(row: NoteRow): Promise<void> {
  const found = await measureDrag(sized(1000, 40), sized(60, 6));
  const nodes = found.nodes.toLocaleString('en');
  row(
    `a step of a dragged value, ${nodes} nodes`,
    `${milliseconds(found.script)} script, ${milliseconds(found.task)} of the page’s thread`,
    found.task,
  );
  const each = Object.entries(found.drawn)
    .map(([name, count]) => [name, count / found.steps] as const)
    .sort(([, a], [, b]) => b - a);
  const total = each.reduce((sum, [, count]) => sum + count, 0);
  const most = each.slice(0, 8).map(([name, count]) => `${name} ${count.toFixed(1)}`);
  row('components drawn for it', `${total.toFixed(1)}: ${most.join(', ')}`, total);
}

async function opening(row: NoteRow): Promise<void> {
  const found = await openingOf(sized([15, 300], []), sized(3, 1));
  for (const [name, { first, second }] of Object.entries(found))
    for (const [visit, { cards, firstSwatch, all }] of [
      ['first', first],
      ['second', second],
    ] as const)
      row(
        `open ${name}, ${visit} visit`,
        `cards ${cards.toFixed(2)} s, first swatch ${firstSwatch.toFixed(2)} s, ` +
          `all ${all.toFixed(2)} s`,
        all,
      );
}

async function memory(row: NoteRow): Promise<void> {
  const acts = sized({ some: 100, many: 2000 }, { some: 10, many: 60 });
  const found = await measureMemory(sized(1000, 40), acts);
  const megabytes = (bytes: number): string => `${(bytes / 2 ** 20).toFixed(1)} MiB`;
  row(
    `heap of the page, ${found.nodes.toLocaleString('en')} nodes`,
    `${megabytes(found.opened)} opened, ${megabytes(found.afterSome)} after ` +
      `${String(acts.some)} acts, ${megabytes(found.afterMany)} after ${String(acts.many)} ` +
      `(${times(found.afterMany / found.afterSome)})`,
    found.afterMany,
  );
}

export const BOARD_PARTS: readonly Part[] = [
  { id: 'board', needs: APPLICATION, measure: frames },
  { id: 'drag', needs: APPLICATION, measure: drag },
  { id: 'opening', needs: APPLICATION, measure: opening },
  { id: 'memory', needs: APPLICATION, measure: memory },
];
