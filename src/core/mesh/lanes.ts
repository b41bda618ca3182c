import { cross, length, sub } from '../base/vector';
import { AXES, isMapLane, laneName, parseLaneName, slopeLane, valueLane } from '../base/lane-name';
import type { Lane } from '../base/lane-name';
import type { LaneName } from '../base/ids';
import { atlasTangents, gradientFromSlopes } from './atlas';
import { sampleMap } from './mesh-map';
import type { MeshMap } from './mesh-map';
import type { SampleExtent, SamplePoints } from './sample-points';
import { getCorners, triangleCount } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';

/**
 * Lanes made of points so far, and of mesh maps at them: the same points are read again with every
 * change of a value.
 */
interface MadeLanes {
  readonly plain: Map<string, Float32Array<ArrayBuffer>>;
  readonly maps: WeakMap<MeshMap, readonly Float32Array<ArrayBuffer>[]>;
}
const kept = new WeakMap<SamplePoints, MadeLanes>();

/**
 * Splits packed points into the lanes programs read, by name; mesh maps by their field. Lanes are
 * made when first asked for, and kept as long as the points.
 */
export function splitLanes(
  mesh: SurfaceMesh,
  points: SamplePoints,
  maps: ReadonlyMap<string, MeshMap>,
): (name: LaneName) => Float32Array<ArrayBuffer> | undefined {
  const store = kept.get(points) ?? {
    plain: new Map<string, Float32Array<ArrayBuffer>>(),
    maps: new WeakMap<MeshMap, readonly Float32Array<ArrayBuffer>[]>(),
  };
  kept.set(points, store);
  const made = store.plain;
  const unpack = (name: string, packed: Float32Array, width: number): void => {
    for (let axis = 0; axis < width; axis++) {
      const lane = new Float32Array(points.count);
      for (let k = 0; k < points.count; k++) lane[k] = packed[k * width + axis] as number;
      made.set(`${name}.${AXES[axis] as string}`, lane);
    }
  };
  const make = (name: LaneName): void => {
    const lane = parseLaneName(name);
    switch (lane.of) {
      case 'view':
        return views(points, made);
      case 'footprint':
        if (points.sample) made.set(name, footprints(mesh, points, points.sample));
        return;
      case 'uv':
        return lane.slope ? textureSlopes(mesh, points, made) : unpack('uv', points.uvs, 2);
      case 'normal':
        return lane.slope ? normalSlopes(mesh, points, made) : unpack('normal', points.normals, 3);
      case 'position':
        return unpack('position', points.positions, 3);
      case 'faceNormal':
        return lane.slope ? undefined : unpack('faceNormal', points.faceNormals, 3);
      case 'part.id':
      case 'part.centre':
        return partLanes(mesh, points, made);
      case 'attribute':
        return attributeLanes(mesh, points, lane, made);
      case 'map':
    }
  };
  return (name) => {
    if (isMapLane(name)) return mapLane(name, maps, points, store);
    if (!made.has(name)) make(name);
    return made.get(name);
  };
}

/** The part each point lies on, and the middle of that part. */
function partLanes(
  { parts, partCentres }: SurfaceMesh,
  points: SamplePoints,
  made: Map<string, Float32Array<ArrayBuffer>>,
): void {
  const id = new Float32Array(points.count),
    centres = AXES.map(() => new Float32Array(points.count));
  for (let k = 0; k < points.count; k++) {
    const part = parts[points.triangles[k] as number] as number;
    id[k] = part;
    for (let axis = 0; axis < 3; axis++)
      (centres[axis] as Float32Array)[k] = partCentres[part * 3 + axis] as number;
  }
  made.set('part.id', id);
  AXES.forEach((letter, axis) =>
    made.set(`part.centre.${letter}`, centres[axis] as Float32Array<ArrayBuffer>),
  );
}

/**
 * One number of a named attribute at every point, or how it changes along the surface. Nothing
 * where the model has no such attribute.
 */
function attributeLanes(
  mesh: SurfaceMesh,
  points: SamplePoints,
  lane: Extract<Lane, { of: 'attribute' }>,
  made: Map<string, Float32Array<ArrayBuffer>>,
): void {
  const { name, component } = lane;
  const attribute = mesh.attributes.find((each) => each.name === name);
  const at = 'xyzw'.indexOf(component);
  if (!attribute || at >= attribute.width) return;
  const { width, values } = attribute;
  const own = Float32Array.from(
    { length: values.length / width },
    (_, vertex) => values[vertex * width + at] as number,
  );
  if (lane.slope) {
    const value = laneName({ of: 'attribute', name, component });
    return linearSlopes(mesh, points, own, 1, made, () => value);
  }
  const result = new Float32Array(points.count);
  const { indices } = mesh;
  for (let k = 0; k < points.count; k++) {
    const t = (points.triangles[k] as number) * 3;
    const u = points.weights[k * 2] as number,
      v = points.weights[k * 2 + 1] as number;
    result[k] =
      (own[indices[t] as number] as number) * (1 - u - v) +
      (own[indices[t + 1] as number] as number) * u +
      (own[indices[t + 2] as number] as number) * v;
  }
  made.set(laneName(lane), result);
}

/**
 * Directions to the eye; where there is none, normals. A view does not change along the surface as
 * far as slopes are concerned.
 */
function views(points: SamplePoints, made: Map<string, Float32Array<ArrayBuffer>>): void {
  const lanes = AXES.map(() => new Float32Array(points.count));
  const eye = points.sample && 'eye' in points.sample ? points.sample.eye : null;
  for (let k = 0; k < points.count; k++) {
    const towards: [number, number, number] = [0, 0, 0];
    for (let axis = 0; axis < 3; axis++)
      towards[axis] = eye
        ? eye[axis as 0] - (points.positions[k * 3 + axis] as number)
        : (points.normals[k * 3 + axis] as number);
    const scale = 1 / (Math.hypot(...towards) || 1);
    lanes.forEach((lane, axis) => {
      lane[k] = towards[axis as 0] * scale;
    });
  }
  AXES.forEach((letter, axis) =>
    made.set(`view.${letter}`, lanes[axis] as Float32Array<ArrayBuffer>),
  );
}

/**
 * The width of surface each sample stands for, metres. Written out in scalars: it runs for every
 * pixel.
 */
function footprints(
  mesh: SurfaceMesh,
  points: SamplePoints,
  sample: SampleExtent,
): Float32Array<ArrayBuffer> {
  const lane = new Float32Array(points.count);
  if ('eye' in sample) {
    const [x, y, z] = sample.eye;
    const { positions } = points;
    for (let k = 0; k < points.count; k++)
      lane[k] =
        Math.hypot(
          (positions[k * 3] as number) - x,
          (positions[k * 3 + 1] as number) - y,
          (positions[k * 3 + 2] as number) - z,
        ) * sample.pixelRad;
    return lane;
  }
  const widths = texelWidths(mesh);
  for (let k = 0; k < points.count; k++)
    lane[k] = (widths[points.triangles[k] as number] as number) / sample.texels;
  return lane;
}

/** Metres along the surface across the whole atlas, as each triangle is spread on it. */
function texelWidths(mesh: SurfaceMesh): Float32Array {
  return Float32Array.from({ length: triangleCount(mesh) }, (_, t) => {
    const tangents = atlasTangents(mesh, t);
    return tangents ? Math.sqrt(length(cross(tangents[0], tangents[1]))) : 0;
  });
}

/** In the order of `sampleLanes`: the value, then its slopes. */
const SLOPES = [undefined, 'x', 'y', 'z'];

function mapLane(
  name: LaneName,
  maps: ReadonlyMap<string, MeshMap>,
  points: SamplePoints,
  store: MadeLanes,
): Float32Array<ArrayBuffer> | undefined {
  const map = maps.get(valueLane(name));
  if (!map) return undefined;
  let lanes = store.maps.get(map);
  if (!lanes) {
    lanes = sampleLanes(map, points);
    store.maps.set(map, lanes);
  }
  return lanes[SLOPES.indexOf(parseLaneName(name).slope)];
}

/** Value and gradient of a map at every point. */
function sampleLanes(map: MeshMap, points: SamplePoints): readonly Float32Array<ArrayBuffer>[] {
  const lanes = Array.from({ length: 4 }, () => new Float32Array(points.count));
  const [value, dx, dy, dz] = lanes as unknown as readonly [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  const texel = new Float32Array(4);
  for (let k = 0; k < points.count; k++) {
    sampleMap(map, points.atlas[k * 2] as number, points.atlas[k * 2 + 1] as number, texel, 0);
    value[k] = texel[0] as number;
    dx[k] = texel[1] as number;
    dy[k] = texel[2] as number;
    dz[k] = texel[3] as number;
  }
  return lanes;
}

/** Gradients of values that are linear inside each triangle, from their corners. */
function linearSlopes(
  mesh: SurfaceMesh,
  points: SamplePoints,
  values: Float32Array,
  width: number,
  made: Map<string, Float32Array<ArrayBuffer>>,
  /** The name of each of the values. */
  nameOf: (component: number) => LaneName,
): void {
  const lanes = Array.from({ length: width * 3 }, () => new Float32Array(points.count));
  for (let k = 0; k < points.count; k++) {
    const t = points.triangles[k] as number;
    const corner = (c: number): number => mesh.indices[t * 3 + c] as number;
    const [a, b, c] = getCorners(mesh, t);
    const tangents = [sub(b, a), sub(c, a)] as const;
    for (let axis = 0; axis < width; axis++) {
      const value = (c: number): number => values[corner(c) * width + axis] as number;
      gradientFromSlopes(tangents, value(1) - value(0), value(2) - value(0)).forEach((slope, d) => {
        (lanes[axis * 3 + d] as Float32Array)[k] = slope;
      });
    }
  }
  for (let axis = 0; axis < width; axis++)
    AXES.forEach((letter, d) =>
      made.set(slopeLane(nameOf(axis), letter), lanes[axis * 3 + d] as Float32Array<ArrayBuffer>),
    );
}

const componentOf = (of: 'uv' | 'normal', axis: number): LaneName =>
  laneName({ of, component: AXES[axis] ?? 'x' });

const textureSlopes = (
  mesh: SurfaceMesh,
  points: SamplePoints,
  made: Map<string, Float32Array<ArrayBuffer>>,
): void => {
  linearSlopes(mesh, points, mesh.uvs, 2, made, (axis) => componentOf('uv', axis));
};
const normalSlopes = (
  mesh: SurfaceMesh,
  points: SamplePoints,
  made: Map<string, Float32Array<ArrayBuffer>>,
): void => {
  linearSlopes(mesh, points, mesh.normals, 3, made, (axis) => componentOf('normal', axis));
};
