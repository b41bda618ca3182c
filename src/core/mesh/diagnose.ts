import { atlasQuality } from './atlas';
import type { Diagnosis, Finding } from './finding';
import {
  countDuplicates,
  shareInverted,
  shareFaceted,
  shareLeaning,
  signedVolume,
} from './surface-faults';
import { triangleAreas, triangleCount } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';
import { getEdges } from './topology';

/** Shares below which a finding is not worth a word. */
const WORTH = { faceted: 0.05, inverted: 0.005, leaning: 0.01, overlap: 0.01 } as const;
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
  const { open, nonManifold, flipped } = getEdges(mesh);
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
  if (nonManifold > 0)
    found.push({
      code: 'non-manifold',
      tone: 'fault',
      title: many(nonManifold, 'edge has', 'edges have').replace(
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

function normalFindings(mesh: SurfaceMesh): Finding[] {
  const found: Finding[] = [];
  const { open } = getEdges(mesh);
  if (open === 0 && signedVolume(mesh) < 0)
    found.push({
      code: 'inside-out',
      tone: 'fault',
      cure: 'flip',
      title: 'It is inside out',
      effect: 'Convex and concave change places, and occlusion looks inwards.',
    });
  const inverted = shareInverted(mesh),
    faceted = shareFaceted(mesh);
  if (inverted > WORTH.inverted)
    found.push({
      code: 'inverted-normals',
      tone: 'fault',
      cure: 'smooth',
      title: `Normals of ${percent(inverted)} of its corners point away from their triangle`,
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

function triangleFindings(mesh: SurfaceMesh): Finding[] {
  const least = (mesh.size * 1e-7) ** 2;
  const flat = triangleAreas(mesh).reduce((count, area) => count + (area <= least ? 1 : 0), 0);
  const duplicates = countDuplicates(mesh.indices);
  return [
    ...(flat > 0
      ? [
          {
            code: 'flat',
            tone: 'fact',
            title: many(flat, 'triangle has', 'triangles have') + ' no area',
            effect: 'They are invisible and change nothing.',
          } as const,
        ]
      : []),
    ...(duplicates > 0
      ? [
          {
            code: 'duplicate',
            tone: 'fault',
            title: many(duplicates, 'triangle is', 'triangles are') + ' duplicated',
            effect: 'Occlusion is black where they lie on each other.',
          } as const,
        ]
      : []),
  ];
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
