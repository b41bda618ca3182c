import * as THREE from 'three';
import { lightPlace } from '@/core/compile/lights';
import type { ModelScale } from '@/core/compile/model-scale';
import type { SceneLight } from '@/core/graph/document';

/** Side of a light's shadow map, pixels. */
const SHADOW_SIDE = 1024;

/** The lights of the scene as the library's lights. */
export class StageLights {
  private lights: THREE.Light[] = [];

  constructor(private readonly scene: THREE.Scene) {}

  /** @returns whether some light throws shadows */
  show(lights: readonly SceneLight[], scale: ModelScale): boolean {
    for (const light of this.lights) { this.scene.remove(light); light.dispose(); }
    this.lights = lights.map((light) => (light.kind === 'near' ? lampOf(light, scale) : sunOf(light, scale)));
    for (const light of this.lights) this.scene.add(light);
    return lights.some((light) => light.shadows);
  }
}

const colourOf = ({ colour }: SceneLight): THREE.Color => new THREE.Color().setRGB(...colour, THREE.LinearSRGBColorSpace);
const middleOf = ({ minimum, extent }: ModelScale): THREE.Vector3 => new THREE.Vector3(...minimum).addScaledVector(new THREE.Vector3(...extent), 0.5);

function sunOf(light: SceneLight, scale: ModelScale): THREE.Light {
  const sun = new THREE.DirectionalLight(colourOf(light), light.intensity);
  const middle = middleOf(scale);
  sun.position.copy(middle).addScaledVector(new THREE.Vector3(...lightPlace(light, scale)), scale.size * 2);
  sun.target.position.copy(middle);
  sun.target.updateMatrixWorld();
  if (light.shadows) {
    sun.castShadow = true;
    const camera = sun.shadow.camera;
    Object.assign(camera, { left: -scale.size * 0.55, right: scale.size * 0.55, top: scale.size * 0.55, bottom: -scale.size * 0.55, near: scale.size * 0.5, far: scale.size * 4 });
    camera.updateProjectionMatrix();
    shadeBy(sun.shadow, scale);
  }
  return sun;
}

/** As strong as stated one object size away; the library counts metres. */
function lampOf(light: SceneLight, scale: ModelScale): THREE.Light {
  const lamp = new THREE.PointLight(colourOf(light), light.intensity * scale.size * scale.size);
  lamp.position.set(...lightPlace(light, scale));
  if (light.shadows) {
    lamp.castShadow = true;
    Object.assign(lamp.shadow.camera, { near: scale.size * 0.01, far: scale.size * 6 });
    shadeBy(lamp.shadow, scale);
  }
  return lamp;
}

function shadeBy(shadow: THREE.LightShadow, scale: ModelScale): void {
  shadow.mapSize.set(SHADOW_SIDE, SHADOW_SIDE);
  shadow.normalBias = scale.size * 0.004;
  shadow.radius = 3;
}
