/**
 * Prints how a large board is to work with: frames beside those of a bare board, a dragged value,
 * opening, memory. Compare ratios within one run only.
 */
import { measureBoard } from './board';
import { measureDrag, measureMemory } from './dragging';
import { openingOf } from './opening';

const asked = new Set(process.argv.slice(2));
const isAsked = (part: string): boolean => asked.size === 0 || asked.has(part);
const rows: string[][] = [];
const milliseconds = (value: number): string => `${value.toFixed(1)} ms`;

if (isAsked('frames'))
  for (const { cards, ours, control } of (await measureBoard([100, 300, 1000])) ?? [])
    for (const act of ['pan', 'zoom'] as const)
      rows.push([
        `${act}, ${String(cards)} cards`,
        `${milliseconds(ours[act])} against ${milliseconds(control[act])} of a bare board ` +
          `(${(ours[act] / control[act]).toFixed(2)} ×)`,
      ]);
if (isAsked('drag')) {
  const drag = await measureDrag(1000);
  if (drag) {
    rows.push([
      'a step of a dragged value, 1,000 nodes',
      `${milliseconds(drag.script)} script, ${milliseconds(drag.task)} of the page’s thread`,
    ]);
    const each = Object.entries(drag.drawn)
      .map(([name, count]) => [name, count / drag.steps] as const)
      .sort(([, a], [, b]) => b - a);
    const total = each.reduce((sum, [, count]) => sum + count, 0);
    const most = each.slice(0, 8).map(([name, count]) => `${name} ${count.toFixed(1)}`);
    rows.push(['components drawn for it', `${total.toFixed(1)}: ${most.join(', ')}`]);
  }
}
if (isAsked('open'))
  for (const [name, { first, second }] of Object.entries((await openingOf()) ?? {}))
    for (const [visit, { cards, firstSwatch, all }] of [
      ['first', first],
      ['second', second],
    ] as const)
      rows.push([
        `open ${name}, ${visit} visit`,
        `cards ${cards.toFixed(2)} s, first swatch ${firstSwatch.toFixed(2)} s, ` +
          `all ${all.toFixed(2)} s`,
      ]);
if (isAsked('memory')) {
  const memory = await measureMemory(1000);
  const megabytes = (bytes: number): string => `${(bytes / 2 ** 20).toFixed(1)} MiB`;
  if (memory)
    rows.push([
      'heap of the page, 1,000 nodes',
      `${megabytes(memory.opened)} opened, ${megabytes(memory.after100)} after 100 acts, ` +
        `${megabytes(memory.after2000)} after 2,000 ` +
        `(${(memory.after2000 / memory.after100).toFixed(2)} ×)`,
    ]);
}
if (rows.length === 0) {
  console.log('The board is measured where NEXT_PUBLIC_TEST_HOOKS=yes ./start runs.');
  process.exit(0);
}
for (const [name = '', value = ''] of rows) console.log(name.padEnd(42), value);
process.exit(0);
