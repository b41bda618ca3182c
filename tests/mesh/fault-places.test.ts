import { drawFault } from '@/core/evaluate/fault-look';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { PLACED_FINDINGS, markFinding } from '@/core/mesh/fault-places';
import { FINDING_CODES } from '@/core/mesh/finding';
import type { FindingCode } from '@/core/mesh/finding';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import { completeMesh, triangleCount } from '@/core/mesh/surface-mesh';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { meshOfSketch, unitTile } from '../support/meshes';

const marked = (mesh: SurfaceMesh, code: FindingCode): number[] =>
  [...(markFinding(mesh, code) ?? [])].flatMap((is, t) => (is === 1 ? [t] : []));
const ball = (): SurfaceMesh =>
  meshOfSketch(new ShapeSketch().nextPart('ball').sphere([0, 0, 0], 1, 24).finish(3));
/** A ball without its k-th triangle. */
function pierced(k: number): SurfaceMesh {
  const whole = ball();
  const keep = (_: number, at: number): boolean => Math.floor(at / 3) !== k;
  return completeMesh({
    ...whole,
    indices: whole.indices.filter(keep),
    parts: whole.parts.filter((_, t) => t !== k),
  });
}

describe('the places of findings', () => {
  it('marks nothing on a sound solid, whatever is looked for', () => {
    const sound = ball();
    for (const code of FINDING_CODES) expect([code, marked(sound, code)]).toEqual([code, []]);
  });
  it('marks the triangles around a hole, and none else', () => {
    const hole = pierced(200);
    const found = marked(hole, 'open');
    expect(found).toHaveLength(3);
    // Each of them has two corners where the missing one had its own.
    const missing = new Set(ball().indices.subarray(600, 603));
    const places = [...missing].map((v) => [...ball().positions.subarray(v * 3, v * 3 + 3)]);
    for (const t of found) {
      const shared = [...hole.indices.subarray(t * 3, t * 3 + 3)].filter((v) =>
        places.some((place) => place.every((x, axis) => x === hole.positions[v * 3 + axis])),
      );
      expect(shared).toHaveLength(2);
    }
  });
  it('marks flipped, doubled, overlapping and inverted ones', () => {
    const tile = unitTile();
    const changed = (change: Partial<SurfaceMesh>): SurfaceMesh =>
      completeMesh({ ...tile, ...change });
    expect(marked(changed({ indices: Uint32Array.of(0, 2, 1, 0, 2, 3) }), 'flipped')).toEqual([
      0, 1,
    ]);
    const doubled = changed({
      indices: Uint32Array.of(0, 2, 1, 2, 1, 0),
      parts: Uint32Array.of(0, 0),
    });
    expect(marked(doubled, 'duplicate')).toEqual([0, 1]);
    expect(marked(doubled, 'overlap')).toEqual([0, 1]);
    const inverted = changed({ normals: Float32Array.from(tile.normals, (value) => -value) });
    expect(marked(inverted, 'inverted-normals')).toEqual(
      Array.from({ length: triangleCount(tile) }, (_, t) => t),
    );
  });
  it('has a place for what can be shown, and none for what is of the whole', () => {
    expect(PLACED_FINDINGS.has('open')).toBe(true);
    expect(PLACED_FINDINGS.has('size')).toBe(false);
    expect(markFinding(ball(), 'size')).toBeNull();
  });
  it('shows the place in madder from the side it faces; a model without it stays grey', () => {
    const reddish = (mesh: SurfaceMesh): number => {
      const picture = drawFault(new MeshAnalysis(mesh), 'open', 96);
      const { pixels = new Uint8ClampedArray() } = picture ?? {};
      let count = 0;
      for (let at = 0; at < pixels.length; at += 4)
        if ((pixels[at] ?? 0) > 2 * (pixels[at + 1] ?? 0) && (pixels[at + 3] ?? 0) > 0) count++;
      return count;
    };
    expect(reddish(ball())).toBe(0);
    // Wherever around the ball the hole is, the camera goes there.
    for (const k of [10, 130, 260, 390, 500]) expect(reddish(pierced(k))).toBeGreaterThan(5);
    expect(drawFault(new MeshAnalysis(ball()), 'size', 32)).toBeNull();
  });
});
