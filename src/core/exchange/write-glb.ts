import { Document, Extension, WebIO } from '@gltf-transform/core';
import type { Accessor, Material, Texture, WriterContext } from '@gltf-transform/core';
import { assert } from '../base/assert';
import type { OpacityMode } from '../graph/document';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { vertexTangents } from '../mesh/tangent-space';
import type { GltfExtensions, TextureReference } from '../nodes/parameters/define';

/** PNG files for the textures of a baked material, and what it says in extensions of glTF. */
export interface BakedMaterial {
  readonly textures: Readonly<Record<string, Uint8Array>>;
  readonly opacityMode: OpacityMode;
  readonly extensions: GltfExtensions;
}

/** How glTF shows opacity; it has no dots, so what is dithered on the stage is blended there. */
const ALPHA_MODES = {
  opaque: 'OPAQUE',
  'cut-off': 'MASK',
  blend: 'BLEND',
  dithered: 'BLEND',
} as const;
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
    mesh.atlas && baked?.textures['normal']
      ? accessor(vertexTangents({ ...mesh, atlas: new Float32Array(mesh.atlas) }), 'VEC4')
      : null;
  const material = document
    .createMaterial(name)
    .setRoughnessFactor(baked ? 1 : 0.6)
    .setMetallicFactor(baked ? 1 : 0);
  const extensions = baked ? dress(document, material, name, baked) : [];
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
  return new WebIO().registerExtensions([...extensions]).writeBinary(document);
}

/**
 * Gives a material its textures, and returns the extensions it needs. Factors are 1 throughout: the
 * textures hold the values.
 */
function dress(
  document: Document,
  material: Material,
  name: string,
  baked: BakedMaterial,
): readonly (typeof Extension)[] {
  const textures = new Map(
    Object.entries(baked.textures).map(([slot, image]) => [
      slot,
      document.createTexture(`${name} ${slot}`).setMimeType('image/png').setImage(image),
    ]),
  );
  const texture = (slot: string): Texture | null => textures.get(slot) ?? null;
  material
    .setAlphaMode(ALPHA_MODES[baked.opacityMode])
    .setBaseColorTexture(texture('base colour'))
    .setMetallicRoughnessTexture(texture('roughness and metalness'))
    .setNormalTexture(texture('normal'));
  const emission = texture('emission');
  if (emission) material.setEmissiveTexture(emission).setEmissiveFactor([1, 1, 1]);
  return Object.entries(baked.extensions).map(([extension, members]) => {
    const kind = materialExtension(extension, material, members, textures);
    document.createExtension(kind);
    return kind;
  });
}

const isReference = (value: unknown): value is TextureReference =>
  typeof value === 'object' && value !== null && 'texture' in value;

/** An extension of one material whose members are known as data. */
function materialExtension(
  name: string,
  material: Material,
  members: GltfExtensions[string],
  textures: ReadonlyMap<string, Texture>,
) {
  return class extends Extension {
    static override readonly EXTENSION_NAME = name;
    override readonly extensionName = name;
    read(): this {
      return this;
    }
    write(context: WriterContext): this {
      const definition =
        context.jsonDoc.json.materials?.[context.materialIndexMap.get(material) ?? -1];
      assert(definition, 'the material is not written');
      const written = Object.entries(members).map(([member, value]) => {
        const texture = isReference(value) ? textures.get(value.texture) : undefined;
        return [member, texture ? { index: textureIndex(context, texture) } : value];
      });
      definition.extensions = {
        ...definition.extensions,
        [name]: Object.fromEntries(written) as Record<string, unknown>,
      };
      return this;
    }
  };
}

/** The index of an image's texture, made where no other property of the material uses it. */
function textureIndex(context: WriterContext, texture: Texture): number {
  const source = context.imageIndexMap.get(texture);
  const known = (context.jsonDoc.json.textures ??= []);
  const found = known.findIndex((each) => each.source === source);
  return found >= 0 ? found : known.push(source === undefined ? {} : { source }) - 1;
}
