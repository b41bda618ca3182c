import type { Document } from '@gltf-transform/core';
import { assertGlb } from './model-format';
import { assertFinite, assertTriangles, distinctNames, dropCollapsed, fail } from './model-soup';
import type { ModelSoup } from './model-soup';
import { gatherAttribute, gatherAttributes, gatherNormals } from './glb-attributes';
import { assertUnfolded, readHead, readerFor } from './glb-head';
import type { BinarySource } from './glb-head';
import { findPrimitives, placeVectors, writeIndices } from './glb-primitives';

/**
 * Reads all triangles of a GLB's scene in world space, a part per primitive of every node. Throws
 * AppError with what is wrong.
 */
export async function readGlbSoup(
  bytes: Uint8Array<ArrayBuffer>,
  dracoBinary?: BinarySource,
): Promise<ModelSoup> {
  assertGlb(bytes);
  const head = readHead(bytes);
  assertUnfolded(head);
  let document: Document;
  try {
    document = await (await readerFor(head, dracoBinary)).readBinary(bytes);
  } catch (cause) {
    throw fail(
      'broken',
      `The file cannot be read: ${cause instanceof Error ? cause.message : String(cause)}.`,
      400,
      cause,
    );
  }
  return gather(document);
}

function gather(document: Document): ModelSoup {
  const { found, skipped } = findPrimitives(document);
  const corners = found.reduce((sum, each) => sum + each.corners, 0);
  assertTriangles(corners / 3);
  const vertices = found.reduce((sum, each) => sum + each.used.length, 0);
  const positions = new Float32Array(vertices * 3),
    indices = new Uint32Array(corners),
    parts = new Uint32Array(corners / 3);
  const names = found.map(
    ({ node, primitive }, part) =>
      node.getName() || primitive.getMaterial()?.getName() || `Part ${String(part + 1)}`,
  );
  let corner = 0;
  found.forEach((each, part) => {
    const { position, node, firstVertex, used } = each;
    placeVectors(positions, position, each, node.getWorldMatrix(), false);
    assertFinite(positions, firstVertex * 3, (firstVertex + used.length) * 3, names[part] ?? '');
    const written = writeIndices(indices, corner, each, names[part] ?? '');
    parts.fill(part, corner / 3, written / 3);
    corner = written;
  });
  const kept = dropCollapsed(indices, parts);
  const notes = [
    ...(kept.dropped > 0 ? [`${String(kept.dropped)} triangles without area were left out.`] : []),
    ...(skipped > 0
      ? [`${String(skipped)} pieces without triangles (lines or points) were left out.`]
      : []),
  ];
  return {
    positions,
    indices: kept.indices,
    parts: kept.parts,
    partNames: distinctNames(names),
    notes,
    normals: gatherNormals(found, vertices),
    uvs: gatherAttribute(found, 'TEXCOORD_0', 2, vertices, true)?.values ?? null,
    attributes: gatherAttributes(found, vertices),
  };
}
