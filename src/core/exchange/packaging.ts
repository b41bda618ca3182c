import {
  bakeRows,
  makeBakeSession,
  pictureRows,
  planBake,
  recipeOf,
  stripsOf,
} from '../evaluate/bake';
import type { BakeImage, BakePlan, BakedRows } from '../evaluate/bake';
import type { MapSource } from '../evaluate/session';
import type { NetworkDocument } from '../graph/document';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import type { ModelTexture } from '../surface/map-recipes';
import { writeGlb } from './write-glb';
import { joinStrips, packRows } from './png-strips';
import type { PngLayout, PngStrip } from './png-strips';

export interface PackagedFile {
  readonly name: string;
  readonly mediaType: string;
  readonly bytes: Uint8Array;
}

/** A file name made of letters, digits and hyphens. */
export function fileName(text: string): string {
  return (
    text
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'material'
  );
}

const layoutOf = ({ size }: BakePlan, image: BakeImage): PngLayout => ({
  width: size,
  height: size,
  channels: recipeOf(image).channels.length as 1 | 3 | 4,
  depth: image.depth,
  meaning: recipeOf(image).meaning,
});

/**
 * Turns evaluated rows into compressed rows of every picture of the plan, in its order. Strips may
 * be packed in any order.
 */
export function packBakedRows(baked: BakedRows): readonly PngStrip[] {
  const { plan, rows } = baked;
  return plan.images.map((image) =>
    packRows(layoutOf(plan, image), pictureRows(baked, image), {
      isFirst: rows[0] === 0,
      isLast: rows[1] === plan.size,
    }),
  );
}

/**
 * The files of a finished bake: a PNG per map, and the model as GLB with its textures. `strips` in
 * order from the top.
 */
export async function packageBake(
  mesh: SurfaceMesh,
  name: string,
  plan: BakePlan,
  strips: readonly (readonly PngStrip[])[],
): Promise<readonly PackagedFile[]> {
  const stem = fileName(name);
  const maps: PackagedFile[] = [];
  const textures: Partial<Record<ModelTexture, Uint8Array>> = {};
  plan.images.forEach((image, k) => {
    const bytes = joinStrips(
      layoutOf(plan, image),
      strips.map((strip) => strip[k] as PngStrip),
    );
    if ('map' in image)
      maps.push({ name: `${stem}-${image.map}.png`, mediaType: 'image/png', bytes });
    else textures[image.texture] = bytes;
  });
  return [
    ...maps,
    {
      name: `${stem}.glb`,
      mediaType: 'model/gltf-binary',
      bytes: await writeGlb(mesh, name, { ...plan, textures }),
    },
  ];
}

/** A whole bake on one thread. @throws CompileError when the document has errors */
export async function bakeFiles(
  document: NetworkDocument,
  mesh: SurfaceMesh,
  maps: MapSource,
  size: number,
  depth: 8 | 16,
): Promise<{ readonly files: readonly PackagedFile[]; readonly notes: readonly string[] }> {
  const session = makeBakeSession();
  const plan = planBake(session, document, mesh, maps, size, depth);
  const strips = stripsOf(size).map((rows) =>
    packBakedRows(bakeRows(session, document, mesh, plan, maps, rows)),
  );
  return {
    files: await packageBake(mesh, document.name || 'Material', plan, strips),
    notes: plan.notes,
  };
}
