import { readFileSync } from 'node:fs';
import path from 'node:path';
import { isStretched } from '@/core/exchange/unwrap';
import { readModel } from '@/core/exchange/read-model';
import { mutateDescription } from '../../scripts/drill/mutations';

const tile = new Uint8Array(
  readFileSync(path.resolve(import.meta.dirname, '../../assets/models/tile.glb')),
);
const box = (far: number): string => {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((k) =>
    [k & 1, (k >> 1) & 1, (k >> 2) & 1].map((bit) => (k === 7 && bit ? far : bit)),
  );
  const faces = ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6'];
  return [
    ...corners.map((corner) => `v ${corner.join(' ')}`),
    ...faces.map((face) => `f ${face}`),
  ].join('\n');
};
const read = (text: string) => readModel(new Uint8Array(new TextEncoder().encode(text)), 'box');

describe('hostile models', () => {
  it(
    'a description that is JSON, with things of the wrong kind anywhere in it, is refused ' +
      'in words',
    async () => {
      const endings = await Promise.all(
        Array.from({ length: 200 }, (_, seed) =>
          readModel(mutateDescription(tile, seed), 'x').then(
            () => 'read',
            (error: unknown) => (error as Error).name,
          ),
        ),
      );
      expect([...new Set(endings)].sort()).toEqual(['AppError', 'read']);
    },
  );
  it('one vertex far off costs room on the maps, which is said, and no time', async () => {
    for (const far of [1e6, 1e9]) {
      const { mesh, notes } = await read(box(far));
      expect(notes.join(' ')).toContain('a vertex may lie far off by mistake');
      expect(mesh.atlas.every((value) => value >= 0 && value <= 1)).toBe(true);
    }
    expect((await read(box(1))).notes.join(' ')).not.toContain('far off');
  });
  it('a model shrunk to a point is read, or refused in words', async () => {
    const faces = Array.from(
      { length: 9000 },
      (_, k) => `v ${String(k * 1e-40)} 0 0\nv 0 1e-40 0\nv 0 0 1e-40\nf -3 -2 -1`,
    );
    const ending = await read(faces.join('\n')).then(
      ({ mesh }) => mesh.indices.length,
      (error: unknown) => (error as Error).name,
    );
    expect([27000, 'AppError']).toContain(ending);
  });
  it('what is merely long is not taken for that', () => {
    // A rope of 60 m and 4 cm across, as a ribbon of pieces 10 cm long.
    const positions = Float32Array.from(
      { length: 601 * 2 * 3 },
      (_, k) => [((k / 6) | 0) * 0.1, (((k / 3) | 0) % 2) * 0.12, 0][k % 3] ?? 0,
    );
    const indices = Uint32Array.from(
      { length: 600 * 6 },
      (_, k) => ((k / 6) | 0) * 2 + ([0, 1, 2, 1, 3, 2][k % 6] ?? 0),
    );
    expect(isStretched(positions, indices)).toBe(false);
  });
});
