import { cross, dot, length, sub } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { atlasQuality } from './atlas';
import { findLeaning } from './curvature';
import { faceNormalsOf } from './sample-points';
import { cornersOf, triangleAreas, triangleCount, vertexAt } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';
import { edgesOf, nextCorner, weldTriples } from './topology';

export const CURES = ['smooth', 'weld', 'unwrap', 'turn round'] as const;
export type Cure = (typeof CURES)[number];
export const FINDING_CODES = [
  'open',
  'crowded',
  'flipped',
  'inside-out',
  'against',
  'leaning',
  'faceted',
  'overlap',
  'coverage',
  'flat',
  'twice',
  'automatic',
  'size',
] as const;
export type FindingCode = (typeof FINDING_CODES)[number];
/** Something about a model that a mask will show, and what mends it. */
export interface Finding {
  readonly code: FindingCode;
  readonly title: string;
  /** What it does to masks, in a sentence. */
  readonly effect: string;
  readonly cure?: Cure;
  /** `fact`: nothing is amiss. */
  readonly tone: 'fault' | 'fact';
}
export interface Diagnosis {
  readonly triangles: number;
  readonly vertices: number;
  readonly parts: readonly string[];
  readonly attributes: readonly { readonly name: string; readonly width: number }[];
  /** Extent along each axis, and the diameter of the smallest enclosing sphere, metres. */
  readonly extent: Vec3;
  readonly size: number;
  readonly findings: readonly Finding[];
}

const DEGREE = Math.PI / 180;
/** Edges of faceted areas are bent by more than the least, and by less than a crease would be. */
const FACET = { least: 2 * DEGREE, most: 40 * DEGREE } as const;
/** Shares below which a finding is not worth a word. */
const WORTH = { faceted: 0.05, against: 0.005, leaning: 0.01, overlap: 0.01 } as const;
const percent = (share: number): string => `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`;
const many = (count: number, one: string, more: string): string =>
  `${count.toLocaleString('en')} ${count === 1 ? one : more}`;

/** Looks a model over for what will show in masks. */
export function diagnose(mesh: SurfaceMesh): Diagnosis {
  return {
    triangles: triangleCount(mesh),
    vertices: mesh.positions.length / 3,
    parts: mesh.partNames,
    attributes: mesh.attributes.map(({ name, width }) => ({ name, width })),
    extent: mesh.extent,
    size: mesh.size,
    findings: [
      ...sizeFindings(mesh),
      ...edgeFindings(mesh),
      ...normalFindings(mesh),
      ...triangleFindings(mesh),
      ...atlasFindings(mesh),
    ],
  };
}

/** Metres between which a thing on a film set or in a game lies. */
const LIKELY = { least: 1e-3, most: 1000 } as const;

function sizeFindings({ size }: SurfaceMesh): Finding[] {
  if (size >= LIKELY.least && size <= LIKELY.most) return [];
  return [
    {
      code: 'size',
      tone: 'fault',
      title:
        `It is ${size < 1 ? 'less than a millimetre' : 'more than a kilometre'} across: is ` +
        'its unit right?',
      effect:
        'Masks relative to the object are the same; lengths in units, true sizes and ' +
        'distances to lights are not.',
    },
  ];
}

function edgeFindings(mesh: SurfaceMesh): Finding[] {
  const { open, crowded, flipped } = edgesOf(mesh);
  const found: Finding[] = [];
  if (open > 0)
    found.push({
      code: 'open',
      tone: 'fault',
      cure: 'weld',
      title: many(open, 'open edge', 'open edges'),
      effect:
        'Thickness leaks out there, and curvature ends at them. Joining vertices closes ' +
        'cracks; holes stay.',
    });
  if (crowded > 0)
    found.push({
      code: 'crowded',
      tone: 'fault',
      title: many(crowded, 'edge has', 'edges have').replace(
        /^(\S+) (edges?) (has|have)$/,
        '$1 $2 $3 more than two triangles',
      ),
      effect: 'Curvature and creases follow only two of them.',
    });
  if (flipped > 0)
    found.push({
      code: 'flipped',
      tone: 'fault',
      title: many(flipped, 'edge', 'edges') + ' between triangles that face opposite ways',
      effect: 'Occlusion looks into the body there: black or white patches.',
    });
  return found;
}

/**
 * Six times the volume a mesh encloses, by the sum over its triangles: below 0 where they face
 * inwards.
 */
function signedVolume(mesh: SurfaceMesh): number {
  let sum = 0;
  for (let t = 0; t < triangleCount(mesh); t++) {
    const [a, b, c] = cornersOf(mesh, t).map((corner) => sub(corner, mesh.centre)) as [
      Vec3,
      Vec3,
      Vec3,
    ];
    sum += dot(a, cross(b, c));
  }
  return sum;
}

function normalFindings(mesh: SurfaceMesh): Finding[] {
  const found: Finding[] = [];
  const { open } = edgesOf(mesh);
  if (open === 0 && signedVolume(mesh) < 0)
    found.push({
      code: 'inside-out',
      tone: 'fault',
      cure: 'turn round',
      title: 'It is inside out',
      effect: 'Convex and concave change places, and occlusion looks inwards.',
    });
  const against = shareAgainst(mesh),
    faceted = shareFaceted(mesh);
  if (against > WORTH.against)
    found.push({
      code: 'against',
      tone: 'fault',
      cure: 'smooth',
      title: `Normals of ${percent(against)} of its corners point away from their triangle`,
      effect: 'Slope, facing and curvature are wrong there.',
    });
  const leaning = shareLeaning(mesh);
  if (leaning > WORTH.leaning)
    found.push({
      code: 'leaning',
      tone: 'fault',
      cure: 'smooth',
      title: `Normals of ${percent(leaning)} of its corners lean more than 40° from their face`,
      effect:
        'They were averaged over hard edges. Curvature goes by the faces there; slope, ' +
        'facing, bumps and light follow the normals. Smoothing by angle makes hard edges ' +
        'hard.',
    });
  if (faceted > WORTH.faceted)
    found.push({
      code: 'faceted',
      tone: 'fault',
      cure: 'smooth',
      title: `${percent(faceted)} of its edges are faceted`,
      effect:
        'Every facet shows in curvature, slope and reflections; smooth normals let the ' +
        'shape decide.',
    });
  return found;
}

/** The share of corners whose normal was averaged over a hard edge. */
const shareLeaning = (mesh: SurfaceMesh): number =>
  findLeaning(mesh).reduce((sum, each) => sum + each, 0) / Math.max(1, mesh.indices.length);

function shareAgainst(mesh: SurfaceMesh): number {
  const faces = faceNormalsOf(mesh);
  let against = 0;
  for (let k = 0; k < mesh.indices.length; k++) {
    const t = ((k / 3) | 0) * 3,
      v = (mesh.indices[k] as number) * 3;
    if (
      (faces[t] as number) * (mesh.normals[v] as number) +
        (faces[t + 1] as number) * (mesh.normals[v + 1] as number) +
        (faces[t + 2] as number) * (mesh.normals[v + 2] as number) <
      0
    )
      against++;
  }
  return against / Math.max(1, mesh.indices.length);
}

/** The share of gently bent edges across which the normals jump as the faces do. */
function shareFaceted(mesh: SurfaceMesh): number {
  const { across } = edgesOf(mesh);
  const faces = faceNormalsOf(mesh);
  let bent = 0,
    hard = 0;
  for (let k = 0; k < across.length; k++) {
    const other = across[k] as number;
    if (other < 0 || other > k) continue;
    const angle = angleBetween(vertexAt(faces, (k / 3) | 0), vertexAt(faces, (other / 3) | 0));
    if (angle < FACET.least || angle > FACET.most) continue;
    bent++;
    const jump = angleBetween(
      vertexAt(mesh.normals, mesh.indices[k] as number),
      vertexAt(mesh.normals, mesh.indices[nextCorner(other)] as number),
    );
    if (jump > angle * 0.5) hard++;
  }
  return bent === 0 ? 0 : hard / bent;
}

const angleBetween = (a: Vec3, b: Vec3): number => Math.atan2(length(cross(a, b)), dot(a, b));

function triangleFindings(mesh: SurfaceMesh): Finding[] {
  const least = (mesh.size * 1e-7) ** 2;
  const flat = triangleAreas(mesh).reduce((count, area) => count + (area <= least ? 1 : 0), 0);
  const twice = countTwice(mesh.indices);
  return [
    ...(flat > 0
      ? [
          {
            code: 'flat',
            tone: 'fact',
            title: many(flat, 'triangle has', 'triangles have') + ' no area',
            effect: 'They are not seen and change nothing.',
          } as const,
        ]
      : []),
    ...(twice > 0
      ? [
          {
            code: 'twice',
            tone: 'fault',
            title: many(twice, 'triangle is', 'triangles are') + ' there twice',
            effect: 'Occlusion is black where they lie on each other.',
          } as const,
        ]
      : []),
  ];
}

/** Triangles that name the same three vertices as one before them. */
function countTwice(indices: Uint32Array): number {
  const keys = new Int32Array(indices.length);
  for (let t = 0; t < indices.length; t += 3) {
    const a = indices[t] as number,
      b = indices[t + 1] as number,
      c = indices[t + 2] as number;
    const low = Math.min(a, b, c),
      high = Math.max(a, b, c);
    keys[t] = low;
    keys[t + 1] = a + b + c - low - high;
    keys[t + 2] = high;
  }
  return weldTriples(keys).reduce((count, first, t) => count + (first === t ? 0 : 1), 0);
}

function atlasFindings(mesh: SurfaceMesh): Finding[] {
  if (mesh.atlasIsAutomatic)
    return [
      {
        code: 'automatic',
        tone: 'fact',
        title: 'Maps and bakes use an automatic atlas',
        effect: 'Its own texture coordinates are kept for images, where it has any.',
      },
    ];
  const { coverage, overlap } = atlasQuality(mesh);
  const found: Finding[] = [
    {
      code: 'coverage',
      tone: coverage < 0.2 ? 'fault' : 'fact',
      ...(coverage < 0.2 ? { cure: 'unwrap' as const } : {}),
      title: `Its texture coordinates cover ${percent(coverage)} of the square`,
      effect:
        coverage < 0.2
          ? 'Maps are coarse: most of their texels show nothing.'
          : 'Maps and bakes are stored by them.',
    },
  ];
  if (overlap > WORTH.overlap)
    found.push({
      code: 'overlap',
      tone: 'fault',
      cure: 'unwrap',
      title: `${percent(overlap)} of them lie on each other`,
      effect: 'Masks of one place appear in the other.',
    });
  return found;
}
