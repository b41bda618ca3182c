import * as THREE from 'three';
import { NO_FEATURES } from '@/core/surface/stage-layout';
import type { Appearance } from '@/core/surface/stage-layout';
import { makeLookUniforms, makeSurfaceMaterial, variantOf } from './stage-materials';

/** Keeps a shading material for each set of features, compiled when first needed; until it is ready the one before stays. */
export class SurfaceShading {
  material: THREE.MeshStandardMaterial;
  private readonly made = new Map<string, THREE.MeshStandardMaterial>();
  private wanted: string;
  private compiling = 0;
  /** What the stage's look changes; read by all materials. */
  readonly look = makeLookUniforms();

  constructor(
    private readonly renderer: THREE.WebGLRenderer, private readonly scene: THREE.Scene, private readonly camera: THREE.Camera,
    private readonly textures: readonly THREE.Texture[], private readonly onReady: () => void,
  ) {
    const plain: Appearance = { features: NO_FEATURES, opacityMode: 'opaque' };
    this.material = makeSurfaceMaterial(textures, plain, this.look);
    this.wanted = variantOf(plain);
    this.made.set(this.wanted, this.material);
  }

  get isBusy(): boolean { return this.compiling > 0; }

  /** @param size of the object, in metres: light bends over a part of it. */
  show(appearance: Appearance, geometry: THREE.BufferGeometry, size: number): void {
    const variant = variantOf(appearance);
    if (variant === this.wanted) return;
    this.wanted = variant;
    const known = this.made.get(variant);
    if (known) return this.use(known, size);
    const material = makeSurfaceMaterial(this.textures, appearance, this.look);
    this.made.set(variant, material);
    const trial = new THREE.Mesh(geometry, material);
    this.compiling++;
    void this.renderer.compileAsync(trial, this.camera, this.scene).catch(() => undefined).then(() => {
      this.compiling--;
      if (this.wanted === variant) this.use(material, size);
    });
  }

  private use(material: THREE.MeshStandardMaterial, size: number): void {
    this.material = material;
    if (material instanceof THREE.MeshPhysicalMaterial) material.thickness = size * 0.15;
    this.onReady();
  }
}
