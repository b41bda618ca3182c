/**
 * Writes docs/screenshots/masks.png: what masks make of the study form, of a coarse and a fine
 * ball, and of an organic form.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { drawModelLook } from '@/core/evaluate/model-looks';
import { encodeRgba } from '@/core/exchange/png';
import { readModel } from '@/core/exchange/read-model';
import { writeGlb } from '@/core/exchange/write-glb';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { organicFormAsObj } from '../tests/support/organic-form';

const SIDE = 220,
  LOOKS = ['clay', 'curvature', 'occlusion', 'thickness'];
const read = async (bytes: Uint8Array): Promise<SurfaceMesh> =>
  (await readModel(new Uint8Array(bytes), 'model')).mesh;
const ball = async (segments: number): Promise<SurfaceMesh> =>
  read(await writeGlb(new ShapeSketch().sphere([0, 0, 0], 1, segments).finish(3), 'ball'));
const models = [
  await read(readFileSync(path.resolve(import.meta.dirname, '../assets/models/study.glb'))),
  await ball(24),
  await ball(224),
  await read(organicFormAsObj()),
];
const width = SIDE * LOOKS.length,
  height = SIDE * models.length;
const pixels = new Uint8ClampedArray(width * height * 4);
for (let k = 0; k < pixels.length; k++) pixels[k] = k % 4 === 3 ? 255 : 75;
models.forEach((mesh, row) => {
  const analysis = new MeshAnalysis(mesh);
  LOOKS.forEach((look, column) => {
    const picture = drawModelLook(analysis, look, SIDE);
    for (let y = 0; y < SIDE; y++)
      for (let x = 0; x < SIDE; x++) {
        const from = (y * SIDE + x) * 4,
          to = ((row * SIDE + y) * width + column * SIDE + x) * 4,
          alpha = (picture.pixels[from + 3] ?? 0) / 255;
        for (let c = 0; c < 3; c++)
          pixels[to + c] =
            (picture.pixels[from + c] ?? 0) * alpha + (pixels[to + c] ?? 0) * (1 - alpha);
      }
  });
  console.log(`${mesh.name} ${String(row + 1)} of ${String(models.length)}`);
});
writeFileSync(
  path.resolve(import.meta.dirname, '../docs/screenshots/masks.png'),
  encodeRgba(width, height, pixels),
);
