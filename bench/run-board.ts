/** Prints the board's frames beside those of the bare board. Compare ratios within one run only. */
import { measureBoard } from './board';

const sizes = process.argv.slice(2).map(Number).filter(Boolean);
const figures = await measureBoard(sizes.length > 0 ? sizes : [100, 300, 1000]);
if (!figures) {
  console.error('Start the application with NEXT_PUBLIC_TEST_HOOKS=yes ./start first.');
  process.exit(1);
}
const shown = (ours: number, control: number): string =>
  `${ours.toFixed(0)} ms against ${control.toFixed(0)} ms (${(ours / control).toFixed(2)} ×)`;
for (const { cards, ours, control } of figures) {
  console.log(`pan, ${String(cards)} cards`.padEnd(20), shown(ours.pan, control.pan));
  console.log(`zoom, ${String(cards)} cards`.padEnd(20), shown(ours.zoom, control.zoom));
}
console.log(JSON.stringify(figures));
process.exit(0);
