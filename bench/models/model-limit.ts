/**
 * Measures a first look at a model of as many triangles as are allowed, and tells the memory it
 * took.
 */
import { MODEL_LIMITS } from '@/core/exchange/model-soup';
import { MAP_SIZE, MeshAnalysis } from '@/core/mesh/analysis';
import { triangleCount } from '@/core/mesh/surface-mesh';
import { torusModel } from './model';
import { sized } from '../size';

const began = performance.now();
const { mesh } = torusModel(Math.floor(Math.sqrt(sized(MODEL_LIMITS.triangles, 5000) / 2)));
const analysis = new MeshAnalysis(mesh);
analysis.quickMap(
  { kind: 'occlusion', reach: mesh.size * 0.25, coneRad: Math.PI / 2, falloff: 0, side: 'open' },
  MAP_SIZE.quick,
);
analysis.quickMap({ kind: 'curvature', radius: mesh.size * 0.03 }, MAP_SIZE.quick);
process.send?.(
  {
    triangles: triangleCount(mesh),
    megabytes: process.resourceUsage().maxRSS / 1024,
    kernel: analysis.kernel.bytes / 1e6,
    seconds: (performance.now() - began) / 1000,
  },
  () => {
    process.exit(0);
  },
);
