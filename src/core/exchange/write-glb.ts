import { Document, WebIO } from '@gltf-transform/core';
import type { Accessor, Extension, Material, Texture } from '@gltf-transform/core';
import {
  KHRMaterialsClearcoat,
  KHRMaterialsDispersion,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsSheen,
  KHRMaterialsSpecular,
  KHRMaterialsTransmission,
  KHRMaterialsUnlit,
  KHRMaterialsVolume,
} from '@gltf-transform/extensions';
import type { OpacityMode } from '../graph/document';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { vertexTangents } from '../mesh/tangent-space';
import type { ModelTexture } from '../surface/map-recipes';

/**
 * PNG files for the textures of a baked material, and what glTF holds as numbers for the whole
 * model.
 */
export interface BakedMaterial {
  readonly textures: Readonly<Partial<Record<ModelTexture, Uint8Array>>>;
  readonly opacityMode: OpacityMode;
  readonly refractiveIndex: number;
  readonly dispersion: number;
  readonly isUnlit: boolean;
  readonly glow: number;
}

const EXTENSIONS = [
  KHRMaterialsClearcoat,
  KHRMaterialsDispersion,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsSheen,
  KHRMaterialsSpecular,
  KHRMaterialsTransmission,
  KHRMaterialsUnlit,
  KHRMaterialsVolume,
];
/** How glTF shows opacity; it has no dots, so what is dithered on the stage is blended there. */
const ALPHA_MODES = {
  opaque: 'OPAQUE',
  'cut-off': 'MASK',
  blend: 'BLEND',
  dithered: 'BLEND',
} as const;
/** An index this close to the one glTF assumes goes without saying. */
const USUAL_INDEX = 1.5,
  INDEX_TOLERANCE = 1e-3;

/** What is written of a mesh; parts without names are numbered. */
export type WrittenMesh = Pick<SurfaceMesh, 'positions' | 'normals' | 'indices' | 'parts'> & {
  readonly atlas?: Float32Array | undefined;
  readonly partNames?: readonly string[];
};

/**
 * Writes a mesh, a node for each part, with its atlas as texture coordinates, and optionally a
 * baked material, as a GLB.
 */
export async function writeGlb(
  mesh: WrittenMesh,
  name: string,
  baked?: BakedMaterial,
): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (
    array: Float32Array | Uint32Array,
    type: 'VEC2' | 'VEC3' | 'VEC4' | 'SCALAR',
  ): Accessor => document.createAccessor().setArray(array.slice()).setType(type).setBuffer(buffer);
  const position = accessor(mesh.positions, 'VEC3'),
    normal = accessor(mesh.normals, 'VEC3');
  const uv = mesh.atlas ? accessor(mesh.atlas, 'VEC2') : null;
  // A normal map is read in the frame it was baked in.
  const tangent =
    mesh.atlas && baked?.textures.normal
      ? accessor(vertexTangents({ ...mesh, atlas: new Float32Array(mesh.atlas) }), 'VEC4')
      : null;
  const material = document
    .createMaterial(name)
    .setRoughnessFactor(baked ? 1 : 0.6)
    .setMetallicFactor(baked ? 1 : 0);
  if (baked) dress(document, material, name, baked);
  const root = document.createNode(name);
  const partCount = mesh.parts.reduce((max, part) => Math.max(max, part), 0) + 1;
  for (let part = 0; part < partCount; part++) {
    const indices = mesh.indices.filter((_, k) => mesh.parts[(k / 3) | 0] === part);
    if (indices.length === 0) continue;
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', position)
      .setAttribute('NORMAL', normal)
      .setIndices(accessor(indices, 'SCALAR'))
      .setMaterial(material);
    if (uv) primitive.setAttribute('TEXCOORD_0', uv);
    if (tangent) primitive.setAttribute('TANGENT', tangent);
    const title = mesh.partNames?.[part] ?? `${name} ${String(part + 1)}`;
    root.addChild(
      document.createNode(title).setMesh(document.createMesh(title).addPrimitive(primitive)),
    );
  }
  document.createScene(name).addChild(root);
  return new WebIO().registerExtensions(EXTENSIONS).writeBinary(document);
}

/** Gives a material its textures. Factors are 1 throughout: the textures hold the values. */
function dress(document: Document, material: Material, name: string, baked: BakedMaterial): void {
  const texture = (slot: ModelTexture): Texture | null => {
    const image = baked.textures[slot];
    return image
      ? document.createTexture(`${name} ${slot}`).setMimeType('image/png').setImage(image)
      : null;
  };
  const extension = <T extends Extension>(kind: new (document: Document) => T): T =>
    document.createExtension(kind);
  material
    .setAlphaMode(ALPHA_MODES[baked.opacityMode])
    .setBaseColorTexture(texture('base colour'))
    .setMetallicRoughnessTexture(texture('roughness and metalness'))
    .setNormalTexture(texture('normal'));
  if (baked.isUnlit)
    material.setExtension('KHR_materials_unlit', extension(KHRMaterialsUnlit).createUnlit());
  const emission = texture('emission');
  if (emission) material.setEmissiveTexture(emission).setEmissiveFactor([1, 1, 1]);
  if (emission && baked.glow > 1)
    material.setExtension(
      'KHR_materials_emissive_strength',
      extension(KHRMaterialsEmissiveStrength)
        .createEmissiveStrength()
        .setEmissiveStrength(baked.glow),
    );
  if (Math.abs(baked.refractiveIndex - USUAL_INDEX) > INDEX_TOLERANCE)
    material.setExtension(
      'KHR_materials_ior',
      extension(KHRMaterialsIOR).createIOR().setIOR(Math.max(1, baked.refractiveIndex)),
    );
  const specular = texture('specular');
  if (specular)
    material.setExtension(
      'KHR_materials_specular',
      extension(KHRMaterialsSpecular)
        .createSpecular()
        .setSpecularTexture(specular)
        .setSpecularColorTexture(specular),
    );
  const coat = texture('coat');
  if (coat)
    material.setExtension(
      'KHR_materials_clearcoat',
      extension(KHRMaterialsClearcoat)
        .createClearcoat()
        .setClearcoatFactor(1)
        .setClearcoatTexture(coat)
        .setClearcoatRoughnessFactor(1)
        .setClearcoatRoughnessTexture(coat),
    );
  const sheen = texture('sheen');
  if (sheen)
    material.setExtension(
      'KHR_materials_sheen',
      extension(KHRMaterialsSheen)
        .createSheen()
        .setSheenColorFactor([1, 1, 1])
        .setSheenColorTexture(sheen)
        .setSheenRoughnessFactor(1)
        .setSheenRoughnessTexture(sheen),
    );
  const transmission = texture('transmission');
  if (transmission)
    material.setExtension(
      'KHR_materials_transmission',
      extension(KHRMaterialsTransmission)
        .createTransmission()
        .setTransmissionFactor(1)
        .setTransmissionTexture(transmission),
    );
  if (transmission && baked.dispersion > 0) {
    // Dispersion bends only what goes through a volume; no thickness is known, so the volume has
    // none.
    material.setExtension('KHR_materials_volume', extension(KHRMaterialsVolume).createVolume());
    material.setExtension(
      'KHR_materials_dispersion',
      extension(KHRMaterialsDispersion).createDispersion().setDispersion(baked.dispersion),
    );
  }
}
