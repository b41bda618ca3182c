import * as THREE from 'three';
import { lightPlace } from '@/core/compile/lights';
import type { ModelBounds } from '@/core/compile/model-scale';
import type { SceneLight, Triple } from '@/core/graph/document';

/** Side of a light's shadow map, pixels. */
const SHADOW_SIDE = 1024;

/** The lights of the scene as the library's lights. */
export class StageLights {
  private lights: THREE.Light[] = [];

  constructor(private readonly scene: THREE.Scene) {}

  /**
   * @param current what the places of lights are counted from
   * @param all the box around everything that may throw a shadow
   * @returns whether some light throws shadows
   */
  show(lights: readonly SceneLight[], current: ModelBounds, all: SceneBox): boolean {
    for (const light of this.lights) {
      this.scene.remove(light);
      light.dispose();
    }
    this.lights = lights.map((light) =>
      light.kind === 'near' ? lampOf(light, current, all) : sunOf(light, current, all),
    );
    for (const light of this.lights) this.scene.add(light);
    return lights.some((light) => light.shadows);
  }
}

const colourOf = ({ colour }: SceneLight): THREE.Color =>
  new THREE.Color().setRGB(...colour, THREE.LinearSRGBColorSpace);
/** Where the middle of the scene is, and its diagonal. */
export interface SceneBox {
  readonly centre: Triple;
  readonly size: number;
}

function sunOf(light: SceneLight, current: ModelBounds, { centre, size }: SceneBox): THREE.Light {
  const sun = new THREE.DirectionalLight(colourOf(light), light.intensity);
  const middle = new THREE.Vector3(...centre);
  sun.position
    .copy(middle)
    .addScaledVector(new THREE.Vector3(...lightPlace(light, current)), size * 2);
  sun.target.position.copy(middle);
  sun.target.updateMatrixWorld();
  if (light.shadows) {
    sun.castShadow = true;
    const camera = sun.shadow.camera;
    Object.assign(camera, {
      left: -size * 0.55,
      right: size * 0.55,
      top: size * 0.55,
      bottom: -size * 0.55,
      near: size * 0.5,
      far: size * 4,
    });
    camera.updateProjectionMatrix();
    shadeBy(sun.shadow, size);
  }
  return sun;
}

/** As strong as stated one object size away; the library counts metres. */
function lampOf(light: SceneLight, current: ModelBounds, { size }: SceneBox): THREE.Light {
  const lamp = new THREE.PointLight(colourOf(light), light.intensity * current.size * current.size);
  lamp.position.set(...lightPlace(light, current));
  if (light.shadows) {
    lamp.castShadow = true;
    Object.assign(lamp.shadow.camera, {
      near: current.size * 0.01,
      far: Math.max(current.size * 6, size * 3),
    });
    shadeBy(lamp.shadow, current.size);
  }
  return lamp;
}

function shadeBy(shadow: THREE.LightShadow, size: number): void {
  shadow.mapSize.set(SHADOW_SIDE, SHADOW_SIDE);
  shadow.normalBias = size * 0.004;
  shadow.radius = 3;
}
