import * as THREE from 'three';
import type { Appearance } from '@/core/surface/stage-layout';
import type { LookUniforms } from './stage-materials';
import { makeSurfaceMaterial, variantKey } from './stage-materials';

/** What the shading is drawn with, and what the stage's look changes of it. */
export interface ShadingView {
  readonly renderer: THREE.WebGLRenderer;
  readonly camera: THREE.Camera;
  readonly shadedScene: THREE.Scene;
  readonly look: LookUniforms;
}

/**
 * Keeps a shading material for each set of features, compiled when first needed; until it is ready
 * the one before stays.
 */
export class SurfaceShading {
  material: THREE.MeshStandardMaterial;
  private readonly made = new Map<string, THREE.MeshStandardMaterial>();
  private wanted: string;
  private compiling = 0;

  constructor(
    private readonly view: ShadingView,
    private readonly textures: readonly THREE.Texture[],
    private readonly onReady: () => void,
  ) {
    const plain: Appearance = { features: [], opacityMode: 'opaque' };
    this.material = makeSurfaceMaterial(textures, plain, this.view.look);
    this.wanted = variantKey(plain);
    this.made.set(this.wanted, this.material);
  }

  close(): void {
    for (const material of this.made.values()) material.dispose();
  }

  get isBusy(): boolean {
    return this.compiling > 0;
  }

  /** @param size of the object, in metres: light bends over a part of it. */
  show(appearance: Appearance, geometry: THREE.BufferGeometry, size: number): void {
    const variant = variantKey(appearance);
    if (variant === this.wanted) return;
    this.wanted = variant;
    const known = this.made.get(variant);
    if (known) return this.use(known, size);
    const material = makeSurfaceMaterial(this.textures, appearance, this.view.look);
    this.made.set(variant, material);
    const trial = new THREE.Mesh(geometry, material);
    this.compiling++;
    void this.view.renderer
      .compileAsync(trial, this.view.camera, this.view.shadedScene)
      .catch(() => undefined)
      .then(() => {
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
