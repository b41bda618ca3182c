/** Makes the demo models as GLB files under assets/models. */
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { unwrapFast, unwrapMesh } from '@/core/exchange/unwrap';
import type { Unwrapped } from '@/core/exchange/unwrap';
import { writeGlb } from '@/core/exchange/write-glb';
import { atlasQuality } from '@/core/mesh/atlas';
import type { Sketch } from '@/core/mesh/shape-sketch';
import { DEMO_MODELS } from '@/core/mesh/demo-models';

/** The atlas that leaves least of the square empty. */
async function bestAtlas({ positions, normals, indices }: Sketch): Promise<Unwrapped> {
  const [careful, fast] = [
    await unwrapMesh(positions, normals, indices),
    unwrapFast(positions, indices),
  ];
  return atlasQuality(fast).coverage > atlasQuality(careful).coverage &&
    atlasQuality(fast).overlap < 0.001
    ? fast
    : careful;
}

const folder = path.resolve(import.meta.dirname, '../assets/models');
mkdirSync(folder, { recursive: true });
for (const model of DEMO_MODELS) {
  const sketch = model.make();
  const pick = (values: Float32Array, sources: Uint32Array): Float32Array<ArrayBuffer> =>
    Float32Array.from(
      { length: sources.length * 3 },
      (_, k) => values[(sources[Math.floor(k / 3)] as number) * 3 + (k % 3)] as number,
    );
  const unwrapped = model.hasUvs ? await bestAtlas(sketch) : null;
  const bytes = unwrapped
    ? await writeGlb(
        {
          positions: pick(sketch.positions, unwrapped.sources),
          normals: pick(sketch.normals, unwrapped.sources),
          indices: unwrapped.indices,
          parts: sketch.parts,
          partNames: sketch.partNames,
          atlas: unwrapped.atlas,
        },
        model.title,
      )
    : await writeGlb(sketch, model.title);
  writeFileSync(path.join(folder, `${model.name}.glb`), bytes);
  console.log(
    `${model.name}: ${String(sketch.indices.length / 3)} triangles, ${String(bytes.length)} bytes`,
  );
}
