import type { BakedMap, BakedMapName } from '../evaluate/bake';
import { present } from '../base/assert';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { writeGlb } from './glb';
import { encodeBaseColour, encodeMap, encodeMetallicRoughness } from './png';

export interface PackagedFile { readonly name: string; readonly mediaType: string; readonly bytes: Uint8Array }

/** A file name made of letters, digits and hyphens. */
export function fileName(text: string): string {
  return text.toLowerCase().normalize('NFKD').replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'material';
}

/** The files of a finished bake: a PNG per map, and the model as GLB with those maps. */
export async function packageBake(mesh: SurfaceMesh, name: string, maps: readonly BakedMap[], depth: 8 | 16): Promise<readonly PackagedFile[]> {
  const map = (wanted: BakedMapName): BakedMap => present(maps.find((each) => each.name === wanted), wanted);
  const stem = fileName(name);
  const glows = map('emission').values.some((value) => value > 0.002);
  const textures = maps.map((each) => ({ name: `${stem}-${each.name}.png`, mediaType: 'image/png', bytes: encodeMap(each, depth) }));
  const hasOpacity = map('opacity').values.some((value) => value < 0.998);
  const model = await writeGlb(mesh, name, {
    baseColour: encodeBaseColour(map('base-colour'), map('opacity')),
    metallicRoughness: encodeMetallicRoughness(map('roughness'), map('metalness')),
    normal: encodeMap(map('normal'), 8), hasOpacity,
    ...(glows ? { emission: encodeMap(map('emission'), 8) } : {}),
  });
  return [...textures, { name: `${stem}.glb`, mediaType: 'model/gltf-binary', bytes: model }];
}
