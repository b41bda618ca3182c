import * as THREE from 'three';
import type { StageCamera } from './stage-camera';

/** Of the height of the stage: the radius of a ball, and its distance from the edges. */
const RADIUS = 0.045,
  MARGIN = 0.02,
  ABOVE = 0.05;
/** How near the balls are, of the distance to what is looked at: in front of the model. */
const NEARNESS = 0.5;
/** Linear reflectance of the grey ball: middle grey. */
const GREY = 0.18;

const ball = (settings: THREE.MeshStandardMaterialParameters): THREE.Mesh => {
  const material = new THREE.MeshStandardMaterial(settings);
  return new THREE.Mesh(new THREE.SphereGeometry(1, 48, 32), material);
};

/**
 * A grey and a mirror ball in the lower left corner of the picture, in the light of the scene: what
 * the light does alone, beside what the material makes of it. They turn with the camera.
 */
export class StageBalls {
  private readonly balls = [
    ball({ color: new THREE.Color().setScalar(GREY), roughness: 1 }),
    ball({ color: 0xffffff, roughness: 0, metalness: 1 }),
  ];
  private readonly group = new THREE.Group();
  private isWished = false;

  constructor(scene: THREE.Scene) {
    this.group.add(...this.balls);
    this.group.visible = false;
    scene.add(this.group);
  }

  close(): void {
    for (const { geometry, material } of this.balls) {
      geometry.dispose();
      (material as THREE.Material).dispose();
    }
  }

  /** Whether they are wished for; they are drawn where a surface is shown. */
  wish(isWished: boolean): void {
    this.isWished = isWished;
  }

  /** Puts them where the camera sees them in the corner. */
  show(isSurface: boolean, { camera, target }: Pick<StageCamera, 'camera' | 'target'>): void {
    this.group.visible = this.isWished && isSurface;
    if (!this.group.visible) return;
    const away = camera.position.distanceTo(target) * NEARNESS;
    const height = 2 * away * Math.tan((camera.fov * Math.PI) / 360);
    const radius = height * RADIUS;
    camera.updateMatrixWorld();
    this.balls.forEach((each, k) => {
      const across = -(height * camera.aspect) / 2 + height * MARGIN + radius * (1 + 2.4 * k);
      const up = -height / 2 + height * ABOVE + radius;
      each.position.set(across, up, -away).applyMatrix4(camera.matrixWorld);
      each.scale.setScalar(radius);
    });
  }
}
