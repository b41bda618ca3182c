import scan from 'bunny';
import { readModel } from '@/core/exchange/read-model';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';

/** An organic scan of about 3,700 triangles, as an OBJ without normals and texture coordinates. */
export const scanAsObj = (): Uint8Array<ArrayBuffer> =>
  new TextEncoder().encode(
    [
      ...scan.positions.map((p) => `v ${p.join(' ')}`),
      ...scan.cells.map((cell) => `f ${cell.map((k) => k + 1).join(' ')}`),
    ].join('\n'),
  );
export const readScan = async (): Promise<SurfaceMesh> =>
  (await readModel(scanAsObj(), 'scan')).mesh;
