import type { BakeRequest } from '../evaluate/bake';
import type { ExportDefinition } from './exports/define';
import { EXPORTS } from './exports/registry.generated';

/** The name of a format of an export. */
export type ExportName = keyof typeof EXPORTS;
/** Every format of an export, by its name. */
export const EXPORT_FORMATS = Object.entries(EXPORTS) as readonly (readonly [
  ExportName,
  ExportDefinition,
])[];
/** Whether there is a format of that name. */
export const isExportName = (name: string): name is ExportName => Object.hasOwn(EXPORTS, name);

/** What a hand-off asks for: texels a side, bits a channel where a format lets one choose. */
export interface HandoffRequest {
  readonly size: number;
  readonly depth: 8 | 16;
  readonly formats: readonly ExportName[];
}
/** The pictures that its formats are made of. */
export function bakeRequest({ size, depth, formats }: HandoffRequest): BakeRequest {
  const depthFor = (needs: ExportDefinition['needs']): 8 | 16 | null => {
    const depths = formats
      .map((name): ExportDefinition => EXPORTS[name])
      .filter((format) => format.needs === needs)
      .map((format) => format.depth(depth));
    return depths.includes(16) ? 16 : depths.includes(8) ? 8 : null;
  };
  return { size, maps: depthFor('maps'), textures: depthFor('textures') };
}
