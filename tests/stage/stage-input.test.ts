import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { StageElement } from '@/features/stage/stage-input';
import type { StageInput } from '@/features/stage/stage-input';

const input = (type: string, x: number, y: number, more: Partial<StageInput> = {}): StageInput => ({
  type,
  pointerId: 1,
  pointerType: 'mouse',
  button: 0,
  buttons: 1,
  clientX: x,
  clientY: y,
  pageX: x,
  pageY: y,
  ctrlKey: false,
  metaKey: false,
  shiftKey: false,
  deltaX: 0,
  deltaY: 0,
  deltaMode: 0,
  ...more,
});

test('the library’s controls turn and come closer by events passed to a stand-in', () => {
  const element = new StageElement();
  element.resize({ width: 400, height: 200, ratio: 1 });
  const camera = new THREE.PerspectiveCamera();
  camera.position.set(0, 0, 10);
  const controls = new OrbitControls(camera, element.asElement);
  controls.enableDamping = false;
  for (const each of [
    input('pointerdown', 100, 100),
    input('pointermove', 150, 100),
    input('pointerup', 150, 100),
  ])
    element.take(each);
  // A drag over the whole height is a full turn.
  const turned = Math.atan2(camera.position.x, camera.position.z);
  expect(turned).toBeCloseTo((-2 * Math.PI * 50) / 200, 5);
  expect(camera.position.length()).toBeCloseTo(10, 5);
  element.take(input('pointermove', 300, 100));
  expect(Math.atan2(camera.position.x, camera.position.z)).toBeCloseTo(turned, 5);
  element.take(input('wheel', 150, 100, { deltaY: -100 }));
  expect(camera.position.length()).toBeLessThan(10);
});
