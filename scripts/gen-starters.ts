/** Draws the pictures of the starters, `public/starters/<id>.png`; run after a starter changes. */
import { readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { STARTERS } from '@/core/starters/starters';
import { readPrepared, renderSwatch } from '@/server/render';

const root = path.resolve(import.meta.dirname, '..');
/** Pixels a side: sharp on the start page at any density. */
const SIZE = 288;

for (const { id, model, document } of STARTERS) {
  const name = model.replace(/^demo-/, '');
  const bytes = await readFile(path.join(root, 'assets/models', `${name}.glb`));
  const prepared = await readPrepared(new Uint8Array(bytes));
  await writeFile(
    path.join(root, 'public/starters', `${id}.png`),
    renderSwatch(document(), prepared, SIZE),
  );
  console.log(id);
}
