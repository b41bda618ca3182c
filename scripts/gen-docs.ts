/**
 * Writes docs/nodes: a page for each family, and a picture of each node, all from the nodes' own
 * definitions; and docs/ready-groups.md. `--pages` leaves the pictures.
 */
import { mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { listDefinitions } from '@/core/compile/catalogue';
import { makeExample } from '@/core/compile/example';
import { handbookPages } from '@/core/compile/handbook';
import { readyGroupsPage } from '@/core/edit/ready-page';
import { framingCamera, seePoints } from '@/core/evaluate/camera';
import { drawOutput } from '@/core/evaluate/draw';
import { encodeRgba } from '@/core/exchange/png';
import { readModel } from '@/core/exchange/read-model';
import { MeshAnalysis } from '@/core/mesh/analysis';

const SIZE = 128;
const MAP_SIZE = 256;
const folder = path.resolve(import.meta.dirname, '../docs/nodes');
mkdirSync(path.join(folder, 'pictures'), { recursive: true });
const pages = handbookPages(listDefinitions());
for (const file of readdirSync(folder))
  if (file.endsWith('.md') && !pages.has(file)) rmSync(path.join(folder, file));
for (const [file, text] of pages) writeFileSync(path.join(folder, file), text);
writeFileSync(path.join(folder, '../ready-groups.md'), readyGroupsPage());
console.log(`${String(pages.size)} pages and the ready groups`);

if (!process.argv.includes('--pages')) {
  const { mesh } = await readModel(
    new Uint8Array(readFileSync(path.resolve(import.meta.dirname, '../assets/models/study.glb'))),
    'study',
  );
  const analysis = new MeshAnalysis(mesh);
  const seen = seePoints(analysis, framingCamera(mesh.centre, mesh.size), SIZE * 2, SIZE * 2);
  for (const definition of listDefinitions()) {
    const { document, shown } = makeExample(definition);
    const picture = drawOutput(document, shown, analysis, seen, (settings, detail) =>
      analysis.quickMap(settings, MAP_SIZE, detail),
    );
    writeFileSync(
      path.join(folder, 'pictures', `${definition.id}.png`),
      encodeRgba(picture.width, picture.height, picture.pixels),
    );
  }
  console.log(`${String(listDefinitions().length)} pictures`);
}
