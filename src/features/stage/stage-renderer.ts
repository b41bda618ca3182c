import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { NO_IMAGE } from '@/core/base/image';
import type { ImageAtlas } from '@/core/base/image';
import { imageSampler } from '@/core/backends/glsl/emit';
import { mapSampler } from '@/core/backends/glsl/stage-shader';
import { mapTexture, sheetTexture, valueTexture } from './stage-textures';
import type { Camera } from '@/core/evaluate/camera';
import { framingCamera } from '@/core/evaluate/camera';
import type { ModelScale } from '@/core/compile/model-scale';
import type { SceneLight, Surroundings, Triple, ValueKind } from '@/core/graph/document';
import type { MeshMap } from '@/core/mesh/mesh-map';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { ALL_TARGETS, NORMAL_TARGET, NO_FEATURES, PLAIN_TARGETS } from '@/core/surface/stage-layout';
import type { Appearance } from '@/core/surface/stage-layout';
import type { StageLook } from '@/state/editor-store';
import type { StageFeed } from '@/state/evaluation';
import type { StageProgram } from '@/workers/loom.worker';
import { BufferFiller, isSoftware } from './buffer-filler';
import type { FillSource } from './buffer-filler';
import { StageBeacons } from './stage-beacons';
import type { BeaconMove } from './stage-beacons';
import { addExtras, stageGeometry } from './stage-geometry';
import { StageLights } from './stage-lights';
import { SurfaceShading } from './surface-shading';
import { makeClayValueMaterial, makeFlatMaterial } from './stage-materials';
import { makeSurroundings } from './surroundings';

/** Clay is opaque and does nothing but reflect. */
const CLAY_APPEARANCE: Appearance = { features: NO_FEATURES, opacityMode: 'opaque' };

/** The buffer the network's program writes: directions in full precision, the rest in half. */
function makeSurfaceTarget(targets: number): THREE.WebGLRenderTarget {
  const target = new THREE.WebGLRenderTarget(1, 1, { count: targets, type: THREE.HalfFloatType, minFilter: THREE.NearestFilter, magFilter: THREE.NearestFilter });
  const directions = target.textures[NORMAL_TARGET];
  if (directions) directions.type = THREE.FloatType;
  return target;
}

/**
 * Draws a model in two passes: the network's program fills a buffer of surface parameters, once per visible point; then
 * fixed materials shade that buffer. Editing recompiles only the first pass; a dragged value recompiles nothing.
 */
export class StageRenderer implements StageFeed {
  private readonly renderer: THREE.WebGLRenderer;
  private readonly camera = new THREE.PerspectiveCamera(0.6 * 180 / Math.PI, 1, 0.01, 100);
  private readonly controls: OrbitControls;
  private readonly programScene = new THREE.Scene();
  private readonly shadedScene = new THREE.Scene();
  private readonly target: THREE.WebGLRenderTarget;
  private readonly programMesh = new THREE.Mesh<THREE.BufferGeometry, THREE.Material>();
  private readonly shadedMesh = new THREE.Mesh<THREE.BufferGeometry, THREE.Material>();
  private readonly shading: SurfaceShading;
  private readonly flatMaterial: THREE.ShaderMaterial;
  private readonly clayMaterial: THREE.MeshStandardMaterial;
  private readonly isColour = { value: false };
  private appearance: Appearance | null = null;
  private looks: StageLook = 'finished';
  private readonly images = new Map<number, ImageAtlas>();
  private readonly mapTextures = new Map<string, THREE.DataTexture>();
  private readonly lights: StageLights;
  readonly beacons: StageBeacons;
  /** Told where a beacon is dragged to; nulls when the drag ends. */
  onBeacon: ((...moved: [id: string, to: BeaconMove] | [null, null]) => void) | null = null;
  private readonly observer: ResizeObserver;
  private program: StageProgram | null = null;
  private pending: { material: THREE.RawShaderMaterial; program: StageProgram } | null = null;
  private mesh: SurfaceMesh | null = null;
  private frame = 0;
  private kind: ValueKind = 'surface';
  private values: Float32Array | null = null;
  readonly mode: 'program' | 'workers';
  readonly targets: number;
  private readonly filler: BufferFiller | null;
  /** Times for tests and benchmarks, milliseconds. */
  readonly timing = { frames: 0, lastFrame: 0, lastCompile: 0 };

  constructor(private readonly host: HTMLElement, private readonly onCamera: (camera: Camera) => void, fill: FillSource, mode: 'program' | 'workers' | null = null) {
    this.renderer = new THREE.WebGLRenderer({ antialias: true, preserveDrawingBuffer: true, powerPreference: 'high-performance' });
    this.renderer.toneMapping = THREE.NeutralToneMapping;
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.renderer.setClearColor(0x000000, 0);
    this.renderer.domElement.className = 'block h-full w-full';
    this.renderer.domElement.setAttribute('role', 'img');
    this.renderer.domElement.setAttribute('aria-label', 'The model with its material. Drag to turn, scroll to come closer, F to frame.');
    this.renderer.domElement.tabIndex = 0;
    host.append(this.renderer.domElement);
    this.targets = this.renderer.getContext().getParameter(WebGL2RenderingContext.MAX_DRAW_BUFFERS) >= ALL_TARGETS ? ALL_TARGETS : PLAIN_TARGETS;
    this.target = makeSurfaceTarget(this.targets);
    this.mode = mode ?? (isSoftware(this.renderer) ? 'workers' : 'program');
    this.filler = this.mode === 'workers' ? new BufferFiller(this.renderer, fill, (kind) => { this.useKind(kind); this.invalidate(); }) : null;
    const textures = this.filler?.textures ?? this.target.textures;
    this.flatMaterial = makeFlatMaterial(textures[0] as THREE.Texture, this.isColour);
    this.clayMaterial = makeClayValueMaterial(textures[0] as THREE.Texture, this.isColour);
    this.programScene.add(this.programMesh);
    this.shadedScene.add(this.shadedMesh);
    this.shadedScene.environment = makeSurroundings(this.renderer);
    this.lights = new StageLights(this.shadedScene);
    this.shadedMesh.castShadow = this.shadedMesh.receiveShadow = true;
    this.shading = new SurfaceShading(this.renderer, this.shadedScene, this.camera, textures, () => { this.useKind(this.kind); this.invalidate(); });
    this.controls = new OrbitControls(this.camera, this.renderer.domElement);
    this.controls.enableDamping = false;
    this.controls.addEventListener('change', () => { this.filler?.look(this.programMesh.geometry, this.camera); this.invalidate(); });
    this.controls.addEventListener('end', () => { this.tellCamera(); });
    this.beacons = new StageBeacons(this.shadedScene, this.camera, this.renderer.domElement, {
      onMove: (id, to) => { this.onBeacon?.(id, to); }, onChange: () => { this.invalidate(); },
      onDrag: (isDragging) => { this.controls.enabled = !isDragging; if (!isDragging) this.onBeacon?.(null, null); },
    });
    this.observer = new ResizeObserver(() => { this.resize(); });
    this.observer.observe(host);
    this.resize();
  }

  close(): void {
    this.observer.disconnect();
    cancelAnimationFrame(this.frame);
    this.beacons.close();
    this.controls.dispose();
    this.target.dispose();
    this.filler?.close();
    this.renderer.dispose();
    this.renderer.domElement.remove();
  }

  private resize(): void {
    const width = Math.max(1, this.host.clientWidth), height = Math.max(1, this.host.clientHeight);
    this.renderer.setSize(width, height, false);
    const pixels = this.renderer.getDrawingBufferSize(new THREE.Vector2());
    if (this.filler) this.filler.resize(pixels.x, pixels.y);
    else this.target.setSize(pixels.x, pixels.y);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    if (this.mesh) this.filler?.look(this.programMesh.geometry, this.camera);
    this.invalidate();
  }

  get isBusy(): boolean { return this.frame !== 0 || this.pending !== null || this.shading.isBusy || (this.filler?.isBusy ?? false); }

  touch(): void { this.filler?.refill(); }

  setAppearance(appearance: Appearance): void {
    this.appearance = appearance;
    if (this.looks === 'clay') return this.shading.show(CLAY_APPEARANCE, this.programMesh.geometry, this.mesh?.size ?? 1);
    // A device that can write few targets shows paint and metal only.
    const { features, opacityMode } = appearance;
    const shown = this.targets === ALL_TARGETS || this.filler ? features : NO_FEATURES;
    this.filler?.setWhole(Object.values(shown).some(Boolean));
    this.shading.show({ features: shown, opacityMode }, this.programMesh.geometry, this.mesh?.size ?? 1);
  }

  setLights(lights: readonly SceneLight[], scale: ModelScale): void {
    const throwsShadows = this.lights.show(lights, scale);
    if (this.renderer.shadowMap.enabled !== throwsShadows) {
      this.renderer.shadowMap.enabled = throwsShadows;
      this.shading.material.needsUpdate = true;
      this.clayMaterial.needsUpdate = true;
    }
    this.invalidate();
  }

  setLook(look: StageLook, stretch: readonly [number, number]): void {
    this.looks = look;
    this.shading.look.clay.value = look === 'clay' ? 1 : 0;
    this.shading.look.raise.value = look === 'exaggerated' ? 1 : 0;
    (this.flatMaterial.uniforms['stretch']?.value as THREE.Vector2).set(...(look === 'exaggerated' ? stretch : [0, 1] as const));
    if (this.appearance) this.setAppearance(this.appearance);
    this.useKind(this.kind);
    this.invalidate();
  }

  setSurroundings({ turn, strength }: Surroundings): void {
    this.shadedScene.environmentRotation.set(0, turn * Math.PI / 180, 0);
    this.shadedScene.environmentIntensity = strength;
    this.invalidate();
  }

  /** Where a place of object space is seen, pixels of the page. */
  project(place: readonly [number, number, number]): readonly [number, number] {
    const seen = new THREE.Vector3(...place).project(this.camera);
    const box = this.renderer.domElement.getBoundingClientRect();
    return [box.left + (seen.x + 1) / 2 * box.width, box.top + (1 - seen.y) / 2 * box.height];
  }

  /** The ray from the eye through a place of the page. */
  rayThrough(x: number, y: number): { readonly from: Triple; readonly towards: Triple } {
    const box = this.renderer.domElement.getBoundingClientRect();
    const through = new THREE.Vector3((x - box.left) / box.width * 2 - 1, 1 - (y - box.top) / box.height * 2, 0.5).unproject(this.camera);
    const { position } = this.camera;
    return { from: position.toArray(), towards: through.sub(position).normalize().toArray() };
  }

  /** Turns towards a place, from as far away as shows so much of it. */
  lookAt(place: readonly [number, number, number], radius: number): void {
    const target = new THREE.Vector3(...place);
    const away = this.camera.position.clone().sub(this.controls.target).setLength(Math.max(radius * 4, (this.mesh?.size ?? 1) * 0.4));
    this.controls.target.copy(target);
    this.camera.position.copy(target).add(away);
    this.controls.update();
    this.filler?.look(this.programMesh.geometry, this.camera);
    this.tellCamera();
    this.invalidate();
  }

  private useKind(kind: ValueKind): void {
    this.kind = kind;
    this.shadedMesh.material = kind === 'surface' ? this.shading.material : this.looks === 'clay' ? this.clayMaterial : this.flatMaterial;
    this.isColour.value = kind === 'colour';
  }

  setMesh(mesh: SurfaceMesh): void {
    this.mesh = mesh;
    this.programMesh.geometry.dispose();
    const geometry = stageGeometry(mesh);
    this.programMesh.geometry = geometry;
    this.shadedMesh.geometry = geometry;
    this.mapTextures.forEach((texture) => { texture.dispose(); });
    this.mapTextures.clear();
    if (this.program) addExtras(geometry, mesh, this.program.shader);
    this.frameModel();
  }

  /** Looks at the whole model. */
  frameModel(): void {
    if (!this.mesh) return;
    const { eye, target } = framingCamera(this.mesh.centre, this.mesh.size, this.camera.aspect);
    this.camera.position.set(...(eye as [number, number, number]));
    this.camera.near = this.mesh.size / 200;
    this.camera.far = this.mesh.size * 40;
    this.camera.updateProjectionMatrix();
    this.controls.target.set(...(target as [number, number, number]));
    this.controls.update();
    this.filler?.look(this.programMesh.geometry, this.camera);
    this.tellCamera();
    this.invalidate();
  }

  private tellCamera(): void {
    const { position } = this.camera;
    const { target } = this.controls;
    this.onCamera({ eye: [position.x, position.y, position.z], target: [target.x, target.y, target.z], fieldRad: this.camera.fov * Math.PI / 180, aspect: this.camera.aspect });
  }

  /** Compiles beside the running program; the old picture stays until the new one is ready. */
  setProgram(program: StageProgram): void {
    const { shader } = program;
    const rows = Math.max(1, Math.ceil(program.uniformCount / 4));
    const material = new THREE.RawShaderMaterial({
      glslVersion: THREE.GLSL3, vertexShader: shader.vertex, fragmentShader: shader.fragment, side: THREE.DoubleSide,
      uniforms: {
        values: { value: shader.valuesIn === 'array' ? new Float32Array(rows * 4) : valueTexture(rows) },
        ...Object.fromEntries(Array.from({ length: shader.imageCount }, (_, k) => [imageSampler(k), { value: sheetTexture(NO_IMAGE) }])),
        ...Object.fromEntries(shader.mapFields.map((_, k) => [mapSampler(k), { value: mapTexture(null) }])),
      },
    });
    const started = performance.now();
    if (this.mesh) addExtras(this.programMesh.geometry, this.mesh, shader);
    this.pending = { material, program };
    const trial = new THREE.Scene();
    trial.add(new THREE.Mesh(this.programMesh.geometry, material));
    void this.renderer.compileAsync(trial, this.camera).then(() => {
      if (this.pending?.material !== material) { material.dispose(); return; }
      this.timing.lastCompile = performance.now() - started;
      this.pending = null;
      this.programMesh.material.dispose();
      this.programMesh.material = material;
      this.program = program;
      this.useKind(program.kind);
      if (this.values) this.setValues(this.values);
      this.images.forEach((sheet, slot) => { this.setImage(slot, sheet); });
      this.mapTextures.forEach((texture, field) => { this.bindMap(field, texture); });
      this.invalidate();
    });
  }

  setValues(values: Float32Array): void {
    this.values = values;
    const material = this.programMesh.material;
    if (!(material instanceof THREE.RawShaderMaterial)) return;
    const held = material.uniforms['values']?.value as Float32Array | THREE.DataTexture | undefined;
    const into = held instanceof THREE.DataTexture ? held.image.data as Float32Array : held;
    if (into && into.length >= values.length) into.set(values);
    if (held instanceof THREE.DataTexture) held.needsUpdate = true;
    material.uniformsNeedUpdate = true;
  }

  setMap(field: string, map: MeshMap | null): void {
    const known = this.mapTextures.get(field);
    if (known && known.image.data === map?.data) return;
    known?.dispose();
    const texture = mapTexture(map);
    this.mapTextures.set(field, texture);
    this.bindMap(field, texture);
  }

  setImage(slot: number, sheet: ImageAtlas): void {
    this.images.set(slot, sheet);
    const { material } = this.programMesh;
    const uniform = material instanceof THREE.RawShaderMaterial ? material.uniforms[imageSampler(slot)] : undefined;
    if (!uniform || (uniform.value as THREE.DataTexture).image.data === sheet.data) return;
    (uniform.value as THREE.DataTexture).dispose();
    uniform.value = sheetTexture(sheet);
  }

  private bindMap(field: string, texture: THREE.DataTexture): void {
    const index = this.program?.shader.mapFields.indexOf(field) ?? -1;
    const material = this.programMesh.material;
    if (index < 0 || !(material instanceof THREE.RawShaderMaterial)) return;
    const uniform = material.uniforms[mapSampler(index)];
    if (uniform) uniform.value = texture;
    material.uniformsNeedUpdate = true;
  }

  invalidate(): void {
    if (this.frame === 0) this.frame = requestAnimationFrame(() => { this.draw(); });
  }

  private draw(): void {
    this.frame = 0;
    if (!this.mesh || !(this.filler ? this.filler.isFilled : this.program)) return;
    const started = performance.now();
    if (!this.filler) {
      this.renderer.setRenderTarget(this.target);
      this.renderer.clear();
      this.renderer.render(this.programScene, this.camera);
    }
    this.renderer.setRenderTarget(null);
    this.renderer.render(this.shadedScene, this.camera);
    this.timing.frames++;
    this.timing.lastFrame = performance.now() - started;
  }

  /** Draws now and waits for the graphics processor; for benchmarks. Milliseconds. */
  drawAndWait(): number {
    const started = performance.now();
    this.draw();
    this.finish();
    return performance.now() - started;
  }

  /** Waits until everything drawn is done. */
  finish(): void {
    const gl = this.renderer.getContext();
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
  }

  orbit(turnRad: number, tiltRad: number): void {
    const offset = this.camera.position.clone().sub(this.controls.target);
    const place = new THREE.Spherical().setFromVector3(offset);
    place.theta += turnRad;
    place.phi = Math.min(Math.PI - 0.05, Math.max(0.05, place.phi + tiltRad));
    this.camera.position.copy(this.controls.target).add(new THREE.Vector3().setFromSpherical(place));
    this.controls.update();
    this.tellCamera();
    this.invalidate();
  }
}
