import type { BakedMap, BakedMapName } from '../evaluate/bake';
import { present } from '../base/assert';
import type { OpacityMode } from '../graph/document';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { chooseOpacityMode } from '../surface/stage-layout';
import { writeGlb } from './glb';
import { encodeBaseColour, encodeMap, encodeMetallicRoughness } from './png';

export interface PackagedFile { readonly name: string; readonly mediaType: string; readonly bytes: Uint8Array }

/** A file name made of letters, digits and hyphens. */
export function fileName(text: string): string {
  return text.toLowerCase().normalize('NFKD').replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'material';
}

/** How glTF shows opacity; it has no dots, so what is dithered on the stage is blended there. */
const ALPHA_MODES = { opaque: 'OPAQUE', 'cut-off': 'MASK', blend: 'BLEND', dithered: 'BLEND' } as const;

/** The files of a finished bake: a PNG per map, and the model as GLB with those maps. Opacity is shown as chosen, else as its values suggest. */
export async function packageBake(mesh: SurfaceMesh, name: string, maps: readonly BakedMap[], depth: 8 | 16, opacityMode?: OpacityMode): Promise<readonly PackagedFile[]> {
  const map = (wanted: BakedMapName): BakedMap => present(maps.find((each) => each.name === wanted), wanted);
  const stem = fileName(name);
  const glows = map('emission').values.some((value) => value > 0.002);
  const textures = maps.map((each) => ({ name: `${stem}-${each.name}.png`, mediaType: 'image/png', bytes: encodeMap(each, depth) }));
  const model = await writeGlb(mesh, name, {
    baseColour: encodeBaseColour(map('base-colour'), map('opacity')),
    metallicRoughness: encodeMetallicRoughness(map('roughness'), map('metalness')),
    normal: encodeMap(map('normal'), 8), alphaMode: ALPHA_MODES[opacityMode ?? chooseOpacityMode(map('opacity').values)],
    ...(glows ? { emission: encodeMap(map('emission'), 8) } : {}),
  });
  return [...textures, { name: `${stem}.glb`, mediaType: 'model/gltf-binary', bytes: model }];
}
