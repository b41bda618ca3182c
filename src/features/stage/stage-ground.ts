import * as THREE from 'three';
import type { ModelBounds } from '@/core/compile/model-scale';
import type { SceneBox } from './stage-lights';

/** Side of the picture of what is near the ground, pixels. */
const SIDE = 256;
/** Side of the ground that is drawn, in sizes of the scene. */
const REACH = 1.9;
/** How high above the ground a part still darkens it, in sizes of the scene. */
const HEIGHT = 0.22;
/** How dark the ground is where a model touches it, and where a light is cut off. */
const CONTACT = 0.62,
  CUT = 0.3;

const HEIGHT_SHADER = {
  vertexShader: `
    varying float height;
    uniform float ground;
    void main() {
      vec4 place = modelMatrix * vec4(position, 1.0);
      height = place.y - ground;
      gl_Position = projectionMatrix * viewMatrix * place;
    }`,
  fragmentShader: `
    varying float height;
    uniform float range;
    void main() {
      float near = 1.0 - clamp(height / range, 0.0, 1.0);
      gl_FragColor = vec4(near * near);
    }`,
};
/** A Gaussian of 17 taps along one axis; a second pass takes the other. */
const BLUR_SHADER = {
  vertexShader: `
    varying vec2 place;
    void main() { place = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }`,
  fragmentShader: `
    varying vec2 place;
    uniform sampler2D picture;
    uniform vec2 step;
    void main() {
      float sum = 0.0, total = 0.0;
      for (int k = -8; k <= 8; k++) {
        float weight = exp(-float(k * k) / 24.0);
        sum += texture2D(picture, place + float(k) * step).r * weight;
        total += weight;
      }
      gl_FragColor = vec4(sum / total);
    }`,
};
const GROUND_SHADER = {
  vertexShader: `
    varying vec2 place;
    void main() {
      place = uv;
      gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
    }`,
  fragmentShader: `
    varying vec2 place;
    uniform sampler2D picture;
    uniform float darkness;
    void main() {
      float rim = 1.0 - smoothstep(0.7, 1.0, 2.0 * length(place - 0.5));
      // From beneath, left and right are exchanged.
      float near = texture2D(picture, vec2(1.0 - place.x, place.y)).r;
      gl_FragColor = vec4(0.0, 0.0, 0.0, near * darkness * rim);
    }`,
};

/**
 * The ground the models stand on: darkest where they touch it, and where a light does not reach.
 * What is near the ground is drawn from beneath, once for each place of models, and blurred.
 */
export class StageGround {
  /** The models as they are seen from beneath. */
  readonly casters = new THREE.Scene();
  readonly casting = new THREE.ShaderMaterial({
    ...HEIGHT_SHADER,
    side: THREE.DoubleSide,
    uniforms: { ground: { value: 0 }, range: { value: 1 } },
  });
  private readonly group = new THREE.Group();
  private readonly shadow: THREE.Mesh;
  private readonly camera = new THREE.OrthographicCamera();
  private readonly pictures = [makePicture(), makePicture()] as const;
  private readonly blur = new THREE.Mesh(
    new THREE.PlaneGeometry(2, 2),
    new THREE.ShaderMaterial({
      ...BLUR_SHADER,
      depthTest: false,
      uniforms: { picture: { value: null }, step: { value: new THREE.Vector2() } },
    }),
  );
  private isWished = true;

  constructor(scene: THREE.Scene) {
    const plane = new THREE.PlaneGeometry(1, 1).rotateX(-Math.PI / 2);
    const contact = new THREE.Mesh(
      plane,
      new THREE.ShaderMaterial({
        ...GROUND_SHADER,
        transparent: true,
        depthWrite: false,
        uniforms: {
          picture: { value: this.pictures[0].texture },
          darkness: { value: CONTACT },
        },
      }),
    );
    this.shadow = new THREE.Mesh(
      plane,
      new THREE.ShadowMaterial({ opacity: CUT, depthWrite: false }),
    );
    this.shadow.receiveShadow = true;
    this.shadow.visible = false;
    this.group.add(contact, this.shadow);
    this.group.visible = false;
    scene.add(this.group);
  }

  close(): void {
    for (const picture of this.pictures) picture.dispose();
  }

  /** Whether it is wished for; it is drawn where a surface is shown. */
  wish(isWished: boolean): void {
    this.isWished = isWished;
  }

  place({ minimum }: ModelBounds, { centre, size }: SceneBox): void {
    const half = (size * REACH) / 2;
    const ground = minimum[1];
    this.group.position.set(centre[0], ground - size * 0.001, centre[2]);
    this.group.scale.set(half * 2, 1, half * 2);
    Object.assign(this.casting.uniforms['ground'] ?? {}, { value: ground });
    Object.assign(this.casting.uniforms['range'] ?? {}, { value: size * HEIGHT });
    Object.assign(this.camera, { left: -half, right: half, top: half, bottom: -half });
    Object.assign(this.camera, { near: 0, far: size * HEIGHT * 1.05 });
    // From beneath, with the picture's upper side where the plane's is.
    this.camera.position.set(centre[0], ground - size * 0.01, centre[2]);
    this.camera.up.set(0, 0, -1);
    this.camera.lookAt(centre[0], ground + size, centre[2]);
    this.camera.updateProjectionMatrix();
    this.camera.updateMatrixWorld();
  }

  /** Whether a light is cut off by what it shines on. */
  setShadows(throwsShadows: boolean): void {
    this.shadow.visible = throwsShadows;
  }

  /** @returns whether it was out of sight before, so that its picture may be old */
  show(isSurface: boolean): boolean {
    const isNew = !this.group.visible && isSurface && this.isWished;
    this.group.visible = isSurface && this.isWished;
    return isNew;
  }

  /** Draws anew what is near the ground. */
  draw(renderer: THREE.WebGLRenderer): void {
    if (!this.group.visible) return;
    const [sharp, half] = this.pictures;
    renderer.setRenderTarget(sharp);
    renderer.clear();
    renderer.render(this.casters, this.camera);
    for (const [from, to, step] of [
      [sharp, half, [1 / SIDE, 0]],
      [half, sharp, [0, 1 / SIDE]],
    ] as const) {
      const { uniforms } = this.blur.material;
      Object.assign(uniforms['picture'] ?? {}, { value: from.texture });
      (uniforms['step']?.value as THREE.Vector2).set(step[0], step[1]);
      renderer.setRenderTarget(to);
      renderer.render(this.blur, this.camera);
    }
    renderer.setRenderTarget(null);
  }
}

const makePicture = (): THREE.WebGLRenderTarget =>
  new THREE.WebGLRenderTarget(SIDE, SIDE, { type: THREE.HalfFloatType });
