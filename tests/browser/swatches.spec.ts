import { readFileSync } from 'node:fs';
import { decode } from 'fast-png';
import { framingCamera, seePoints } from '@/core/evaluate/camera';
import { drawOutput } from '@/core/evaluate/draw';
import { readModel } from '@/core/exchange/read-model';
import type { InputValue, NetworkDocument } from '@/core/graph/document';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { documentOf, node } from '../support/networks';
import { expect, openStored, signIn, stagePicture, test, untilIdle } from './studio';

/** Pixels a side of the blocks that are compared: outlines are drawn by different samples. */
const BLOCK = 6;

/** Surfaces, and how far nine in ten of the compared channels may be apart, of 255. */
const SURFACES: Readonly<Record<string, { most: number; values: Record<string, InputValue> }>> = {
  'varnished cloth': {
    most: 6,
    values: {
      baseColour: [0.2, 0.09, 0.035],
      roughness: 0.7,
      coat: 0.5,
      coatRoughness: 0.15,
      sheen: 0.6,
      sheenRoughness: 0.5,
    },
  },
  metal: { most: 9, values: { baseColour: [0.6, 0.5, 0.4], metalness: 1, roughness: 0.3 } },
  // The stage also shows the inside of the far wall through it.
  glass: {
    most: 22,
    values: { baseColour: [1, 1, 1], roughness: 0.1, transmission: 1, refractiveIndex: 1.5 },
  },
};
const painted = (values: Record<string, InputValue>): NetworkDocument =>
  documentOf([node('s', 'surface.surface', values)], ['s:surface > @out:surface']);

/** Means over blocks of a picture: red, green, blue and coverage, 0 to 255. */
function blocksOf(
  {
    width,
    height,
    data,
    channels,
  }: Pick<ReturnType<typeof decode>, 'width' | 'height' | 'data' | 'channels'>,
  side: number,
): readonly (readonly number[])[] {
  const blocks: number[][] = [];
  for (let y = 0; y + side <= height; y += side)
    for (let x = 0; x + side <= width; x += side) {
      const sum = [0, 0, 0, 0];
      for (let k = 0; k < side * side; k++) {
        const at = ((y + Math.floor(k / side)) * width + x + (k % side)) * channels;
        for (let c = 0; c < 4; c++)
          sum[c] = (sum[c] ?? 0) + (c < channels ? (data[at + c] ?? 0) : 255);
      }
      blocks.push(sum.map((each) => each / (side * side)));
    }
  return blocks;
}

/** How far apart the stage and a picture of a document are, channel by channel, in order. */
function differences(
  analysis: MeshAnalysis,
  document: NetworkDocument,
  stage: ReturnType<typeof decode>,
): readonly number[] {
  const { centre, size } = analysis.mesh;
  // Twice as fine as a block: `drawOutput` halves.
  const [columns, rows] = [Math.floor(stage.width / BLOCK), Math.floor(stage.height / BLOCK)];
  const aspect = stage.width / stage.height;
  const seen = seePoints(
    analysis,
    framingCamera(centre, size, aspect),
    Math.round((stage.width * 4) / BLOCK),
    Math.round((stage.height * 4) / BLOCK),
  );
  const drawn = drawOutput(document, 'surface', analysis, seen, () => undefined);
  const [shown, made] = [
    blocksOf(stage, BLOCK),
    blocksOf({ ...drawn, data: drawn.pixels, channels: 4 }, 2),
  ];
  const across = Math.floor(drawn.width / 2);
  const apart: number[] = [];
  for (let y = 1; y < rows - 1; y++)
    for (let x = 1; x < columns - 1; x++) {
      const block = made[y * across + x];
      const isInside = [-1, 0, 1].every((dx) =>
        [-1, 0, 1].every((dy) => made[(y + dy) * across + x + dx]?.[3] === 255),
      );
      if (!block || !isInside) continue;
      const other = shown[y * columns + x] ?? [];
      for (let c = 0; c < 3; c++) apart.push(Math.abs((block[c] ?? 0) - (other[c] ?? 0)));
    }
  return apart.sort((a, b) => a - b);
}

test(
  'a picture made on the processor looks like the stage, whatever the surface',
  { tag: '@whole-stage' },
  async ({ page }) => {
    const { mesh } = await readModel(
      new Uint8Array(readFileSync('assets/models/buoy.glb')),
      'buoy',
    );
    const analysis = new MeshAnalysis(mesh);
    await signIn(page, 'tove');
    for (const [name, { most, values }] of Object.entries(SURFACES)) {
      const document = painted(values);
      await openStored(page, document, 'demo-buoy');
      await untilIdle(page);
      const stage = decode(await stagePicture(page));
      const apart = differences(analysis, document, stage);
      expect(apart.length).toBeGreaterThan(3000);
      expect(apart[Math.floor(apart.length * 0.9)], name).toBeLessThan(most);
    }
  },
);
