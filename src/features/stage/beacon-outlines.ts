import * as THREE from 'three';
import { beaconOutline } from '@/core/evaluate/beacon-outline';
import type { BeaconOutline } from '@/core/evaluate/beacon-outline';
import type { BeaconShape, PlacedBeacon } from '@/core/edit/beacons';

const known = new Map<BeaconShape, BeaconOutline>();
function outlineOf(shape: BeaconShape): BeaconOutline {
  const outline = known.get(shape) ?? beaconOutline(shape);
  known.set(shape, outline);
  return outline;
}

/** Lines on the surface where the boundaries of beacons cross it. */
export class BeaconOutlines {
  private readonly meshes = new Map<
    string,
    {
      readonly shape: BeaconShape;
      readonly mesh: THREE.Mesh<THREE.BufferGeometry, THREE.RawShaderMaterial>;
    }
  >();

  constructor(private readonly scene: THREE.Scene) {}

  /** @param colours of each beacon's line, by its id */
  show(
    beacons: readonly PlacedBeacon[],
    geometry: THREE.BufferGeometry | null,
    colours: (id: string) => THREE.Color,
  ): void {
    for (const [id, { mesh, shape }] of this.meshes) {
      if (geometry && beacons.some((beacon) => beacon.id === id && beacon.shape === shape))
        continue;
      this.scene.remove(mesh);
      mesh.material.dispose();
      this.meshes.delete(id);
    }
    if (!geometry) return;
    for (const beacon of beacons) {
      const { mesh } = this.meshes.get(beacon.id) ?? this.add(beacon);
      mesh.geometry = geometry;
      (mesh.material.uniforms['values']?.value as Float32Array).set(
        outlineOf(beacon.shape).values(beacon),
      );
      (mesh.material.uniforms['line']?.value as THREE.Color).copy(colours(beacon.id));
      mesh.material.uniformsNeedUpdate = true;
    }
  }

  private add({ id, shape }: PlacedBeacon): {
    readonly shape: BeaconShape;
    readonly mesh: THREE.Mesh<THREE.BufferGeometry, THREE.RawShaderMaterial>;
  } {
    const { shader, uniformCount } = outlineOf(shape);
    const material = new THREE.RawShaderMaterial({
      glslVersion: THREE.GLSL3,
      vertexShader: shader.vertex,
      fragmentShader: shader.fragment,
      side: THREE.DoubleSide,
      transparent: true,
      depthWrite: false,
      polygonOffset: true,
      polygonOffsetFactor: -1,
      polygonOffsetUnits: -2,
      uniforms: {
        values: { value: new Float32Array(Math.ceil(uniformCount / 4) * 4) },
        line: { value: new THREE.Color() },
        eye: { value: new THREE.Vector3() },
      },
    });
    const entry = { shape, mesh: new THREE.Mesh(new THREE.BufferGeometry(), material) };
    // Drawn over the surface it lies on.
    entry.mesh.renderOrder = 1;
    entry.mesh.frustumCulled = false;
    this.meshes.set(id, entry);
    this.scene.add(entry.mesh);
    return entry;
  }

  close(): void {
    this.show([], null, () => new THREE.Color());
  }
}
