import type * as THREE from 'three';
import type { ValueKind } from '@/core/graph/document';
import type { StageLook } from '@/state/stores';
import { ALL_CHANNELS, READINGS, makeClayValueMaterial, makeFlatMaterial } from './stage-materials';
import { makeUnknownMaterial } from './unknown-material';

/** What a model is drawn with where no finished surface is shown: a value, or nothing yet. */
export class ValueMaterials {
  private readonly shownAs = { isColour: { value: false }, channel: { value: ALL_CHANNELS } };
  private readonly flat: THREE.ShaderMaterial;
  private readonly clay: THREE.MeshStandardMaterial;
  /** Hatched: nothing is known yet. */
  readonly unknown = makeUnknownMaterial();
  private channel = ALL_CHANNELS;
  private look: StageLook = 'finished';

  constructor(texture: THREE.Texture) {
    this.flat = makeFlatMaterial(texture, this.shownAs);
    this.clay = makeClayValueMaterial(texture, this.shownAs);
  }

  close(): void {
    for (const material of [this.flat, this.clay, this.unknown]) material.dispose();
  }

  setLook(look: StageLook, stretch: readonly [number, number]): void {
    this.look = look;
    const isStretched = look === 'exaggerated' || look === 'signed';
    (this.flat.uniforms['stretch']?.value as THREE.Vector2).set(
      ...(isStretched ? stretch : ([0, 1] as const)),
    );
    const reading = this.flat.uniforms['reading'];
    if (reading)
      reading.value = look === 'limits' || look === 'signed' ? READINGS[look] : READINGS.plain;
  }

  /** The channel of a flat value that is shown, as grey; null for all of them. */
  setChannel(channel: number | null): void {
    this.channel = channel ?? ALL_CHANNELS;
  }

  /** Whether there are shadows at all changed. */
  shadowsChanged(): void {
    this.clay.needsUpdate = true;
  }

  /** The material that shows a value of a kind as the look wants it. */
  of(kind: ValueKind): THREE.Material {
    this.shownAs.isColour.value = kind === 'colour';
    this.shownAs.channel.value = kind === 'scalar' ? ALL_CHANNELS : this.channel;
    return this.look === 'clay' ? this.clay : this.flat;
  }
}
