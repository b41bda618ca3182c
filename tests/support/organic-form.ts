import { readModel } from '@/core/exchange/read-model';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';

type Point = readonly [number, number, number];

/** A resting seal of our own making: ellipsoids (middle, half axes, metres) that flow together. */
const LIMBS: readonly (readonly [Point, Point])[] = [
  [
    [0, 0.3, 0],
    [0.3, 0.26, 0.62],
  ],
  [
    [0, 0.5, 0.5],
    [0.19, 0.22, 0.24],
  ],
  [
    [0, 0.72, 0.66],
    [0.17, 0.15, 0.18],
  ],
  [
    [0, 0.68, 0.82],
    [0.09, 0.075, 0.1],
  ],
  [
    [0.36, 0.12, 0.34],
    [0.22, 0.06, 0.11],
  ],
  [
    [-0.36, 0.12, 0.34],
    [0.22, 0.06, 0.11],
  ],
  [
    [0.14, 0.2, -0.72],
    [0.07, 0.06, 0.24],
  ],
  [
    [-0.14, 0.2, -0.72],
    [0.07, 0.06, 0.24],
  ],
];
/** Over how many metres limbs flow together. */
const FLOW = 0.05;

/** Negative inside, about the distance in metres outside; smooth everywhere but in the middles. */
function depthAt([x, y, z]: Point): number {
  let sum = 0;
  for (const [[cx, cy, cz], [a, b, c]] of LIMBS) {
    const length = Math.hypot((x - cx) / a, (y - cy) / b, (z - cz) / c);
    sum += Math.exp(-((length - 1) * Math.min(a, b, c)) / FLOW);
  }
  return -FLOW * Math.log(sum);
}

const CELL = 0.047;
const LOW: Point = [-0.7, -0.1, -1.1];
const COUNT = [30, 26, 45] as const;
const cornerAt = (i: number, j: number, k: number): Point => [
  LOW[0] + i * CELL,
  LOW[1] + j * CELL,
  LOW[2] + k * CELL,
];
const EDGES: readonly (readonly [Point, Point])[] = [0, 1, 2].flatMap((axis) =>
  [0, 1].flatMap((u) =>
    [0, 1].map((v) => {
      const at = (t: number): Point => {
        const corner = [0, 0, 0];
        corner[axis] = t;
        corner[(axis + 1) % 3] = u;
        corner[(axis + 2) % 3] = v;
        return corner as unknown as Point;
      };
      return [at(0), at(1)] as const;
    }),
  ),
);

/** The mean of where the surface cuts a cell's edges; null where it does not. */
function middleOfCell(i: number, j: number, k: number): Point | null {
  const cuts = EDGES.flatMap(([from, to]) => {
    const a = cornerAt(i + from[0], j + from[1], k + from[2]);
    const b = cornerAt(i + to[0], j + to[1], k + to[2]);
    const [da, db] = [depthAt(a), depthAt(b)];
    if (da < 0 === db < 0) return [];
    const t = da / (da - db);
    return [[0, 1, 2].map((axis) => (a[axis] ?? 0) * (1 - t) + (b[axis] ?? 0) * t)];
  });
  if (cuts.length === 0) return null;
  const mean = (axis: number): number =>
    cuts.reduce((sum, cut) => sum + (cut[axis] ?? 0), 0) / cuts.length;
  return [mean(0), mean(1), mean(2)];
}

/** Dual polygons of a grid, cut in two: some 4,000 triangles, closed, wound outwards. */
function polygonise(): { readonly points: Point[]; readonly triangles: Point[] } {
  const points: Point[] = [];
  const numbers = new Map<string, number>();
  const numberOf = (i: number, j: number, k: number): number => {
    const key = `${String(i)} ${String(j)} ${String(k)}`;
    const known = numbers.get(key);
    if (known !== undefined) return known;
    const middle = middleOfCell(i, j, k);
    if (!middle) throw new Error('a face beside a cell that is not cut');
    numbers.set(key, points.length);
    return points.push(middle) - 1;
  };
  const triangles: Point[] = [];
  for (let i = 1; i < COUNT[0]; i++)
    for (let j = 1; j < COUNT[1]; j++)
      for (let k = 1; k < COUNT[2]; k++)
        for (let axis = 0; axis < 3; axis++) {
          const step = [0, 1, 2].map((each) => (each === axis ? 1 : 0));
          const isInside = depthAt(cornerAt(i, j, k)) < 0;
          const next = cornerAt(i + (step[0] ?? 0), j + (step[1] ?? 0), k + (step[2] ?? 0));
          if (isInside === depthAt(next) < 0) continue;
          const around = ([u, v]: readonly [number, number]): number => {
            const cell = [i, j, k];
            cell[(axis + 1) % 3] = (cell[(axis + 1) % 3] ?? 0) - u;
            cell[(axis + 2) % 3] = (cell[(axis + 2) % 3] ?? 0) - v;
            return numberOf(cell[0] ?? 0, cell[1] ?? 0, cell[2] ?? 0);
          };
          const [a, b, c, d] = (
            [
              [1, 1],
              [0, 1],
              [0, 0],
              [1, 0],
            ] as const
          ).map(around) as [number, number, number, number];
          triangles.push(
            ...(isInside
              ? ([
                  [a, b, c],
                  [a, c, d],
                ] as const)
              : ([
                  [a, c, b],
                  [a, d, c],
                ] as const)),
          );
        }
  return { points, triangles };
}

/** An organic form of some 4,000 triangles, as an OBJ without normals and texture coordinates. */
export function organicFormAsObj(): Uint8Array<ArrayBuffer> {
  const { points, triangles } = polygonise();
  const lines = [
    ...points.map((point) => `v ${point.map((x) => x.toFixed(5)).join(' ')}`),
    ...triangles.map((triangle) => `f ${triangle.map((k) => k + 1).join(' ')}`),
  ];
  return new TextEncoder().encode(lines.join('\n'));
}

export const readOrganicForm = async (): Promise<SurfaceMesh> =>
  (await readModel(organicFormAsObj(), 'seal')).mesh;
