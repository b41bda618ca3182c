import { triangleCount } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';

/** What is worth knowing of a mesh where its arrays are not: small whatever its size. */
export interface MeshFacts extends Pick<
  SurfaceMesh,
  'name' | 'minimum' | 'extent' | 'centre' | 'size' | 'partNames'
> {
  readonly triangles: number;
  readonly attributes: readonly { readonly name: string; readonly width: number }[];
}

/** The facts of a mesh; none of its arrays is copied. */
export function getMeshFacts(mesh: SurfaceMesh): MeshFacts {
  const { name, minimum, extent, centre, size, partNames, attributes } = mesh;
  return {
    name,
    minimum,
    extent,
    centre,
    size,
    partNames,
    triangles: triangleCount(mesh),
    attributes: attributes.map((each) => ({ name: each.name, width: each.width })),
  };
}
