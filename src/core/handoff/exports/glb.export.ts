import type { GltfExtensions } from '../../nodes/parameters/define';
import { SURFACE_ENTRIES } from '../../nodes/surface-parameters';
import { defineExport } from './define';

/** What all parameters say, members of one extension together. */
function mergeExtensions(all: readonly GltfExtensions[]): GltfExtensions {
  const merged: Record<string, GltfExtensions[string]> = {};
  for (const each of all)
    for (const [name, members] of Object.entries(each))
      merged[name] = { ...merged[name], ...members };
  return merged;
}

export const glb = defineExport({
  title: 'Model (GLB)',
  help: 'The model with its material as textures: glTF 2.0, binary.',
  needs: 'textures',
  // The models that are passed on have 8 bits a channel throughout.
  depth: () => 8,
  async write({ mesh, name, stem, plan, picture }) {
    const textures = Object.fromEntries(
      plan.images.flatMap((image) =>
        'texture' in image ? [[image.texture, picture(image)] as const] : [],
      ),
    );
    const hasTexture = (texture: string): boolean => Object.hasOwn(textures, texture);
    const extensions = mergeExtensions(
      SURFACE_ENTRIES.flatMap(([parameter, { gltf }]) => {
        const said = gltf?.(plan.values[parameter], hasTexture);
        return said ? [said] : [];
      }),
    );
    const { opacityMode } = plan;
    // Loaded only where a model is written: it is large.
    const { writeGlb } = await import('../../exchange/write-glb');
    return [
      {
        name: `${stem}.glb`,
        mediaType: 'model/gltf-binary',
        bytes: await writeGlb(mesh, name, { textures, opacityMode, extensions }),
      },
    ];
  },
});
