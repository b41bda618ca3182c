import type { Builder } from '../ir/builder';
import type { F32 } from '../ir/types';
import type { MapSetting } from '../nodes/define';
import type { MeshMapKind } from '../nodes/map-kinds.generated';

/**
 * A mesh map some node reads: which, the lanes (uniform) and choices that decide it, and the input
 * whose normals it is measured by.
 */
export interface MapSlot {
  readonly field: string;
  /** The node that reads it. */
  readonly path: readonly string[];
  readonly kind: MeshMapKind;
  readonly settings: Readonly<Record<string, F32>>;
  readonly choices: Readonly<Record<string, string>>;
  readonly detail?: { readonly path: readonly string[]; readonly input: string };
}

/** @param fixed the node's fixed inputs, by id; `options` what is chosen of its options */
export function makeMapSlot(
  b: Builder,
  slot: Pick<MapSlot, 'field' | 'path' | 'kind' | 'detail'>,
  wanted: Readonly<Record<string, MapSetting>>,
  fixed: ReadonlyMap<string, F32>,
  options: Readonly<Record<string, string>>,
): MapSlot {
  const settings: Record<string, F32> = {},
    choices: Record<string, string> = {};
  for (const [name, given] of Object.entries(wanted)) {
    const lane =
      typeof given === 'number'
        ? b.f(given)
        : typeof given === 'string'
          ? fixed.get(given)
          : 'everywhere' in given
            ? given.everywhere
            : undefined;
    const choice =
      typeof given === 'string'
        ? options[given]
        : typeof given === 'object' && 'choice' in given
          ? given.choice
          : undefined;
    if (lane) settings[name] = lane;
    if (choice !== undefined) choices[name] = choice;
  }
  return { ...slot, settings, choices };
}
