import { MAP_SIZE, MAP_VIEWS, resolveMapSettings } from '../mesh/analysis';
import { sampleMap } from '../mesh/mesh-map';
import { getMeshFacts } from '../mesh/mesh-facts';
import type { LoadedModel } from './loaded-model';

/** How a mask made from the shape differs between two models; means over the surface, 0–1. */
export interface MaskChange {
  readonly title: string;
  readonly before: number;
  readonly after: number;
}
/** What is different between two models, as far as networks notice. */
export interface ModelChanges {
  /** In sentences; empty where nothing of it changed. */
  readonly facts: readonly string[];
  readonly masks: readonly MaskChange[];
}

/** The mean of each mask that has a look, over points spread evenly over the model. */
function maskMeans(
  { analysis, uniform }: LoadedModel,
  texels: number,
): ReadonlyMap<string, number> {
  const texel = new Float32Array(4);
  return new Map(
    [...MAP_VIEWS.values()].flatMap(({ kind, given, choices, look }) => {
      if (!look) return [];
      const settings = resolveMapSettings(kind, given, choices, analysis.mesh.size);
      const map = analysis.quickMap(settings, texels);
      let sum = 0;
      for (let k = 0; k < uniform.count; k++) {
        sampleMap(map, uniform.atlas[k * 2] ?? 0, uniform.atlas[k * 2 + 1] ?? 0, texel, 0);
        const share = ((texel[0] ?? 0) - look.black) / (look.white - look.black);
        sum += Math.min(1, Math.max(0, share));
      }
      return [[look.title, sum / Math.max(1, uniform.count)] as const];
    }),
  );
}

const listed = (names: readonly string[]): string => names.map((name) => `“${name}”`).join(', ');

function nameChanges(what: string, before: readonly string[], after: readonly string[]): string[] {
  const gone = before.filter((name) => !after.includes(name));
  const come = after.filter((name) => !before.includes(name));
  return [
    ...(gone.length > 0 ? [`Gone: ${what} ${listed(gone)}. Nodes that name it read nothing.`] : []),
    ...(come.length > 0 ? [`New: ${what} ${listed(come)}.`] : []),
  ];
}

/**
 * What changes for networks when one model takes the place of another: size, parts, attributes,
 * and the masks that are made from the shape.
 *
 * @param texels along the side of the maps from which masks are read
 */
export function compareModels(
  before: LoadedModel,
  after: LoadedModel,
  texels: number = MAP_SIZE.quick,
): ModelChanges {
  const [old, now] = [getMeshFacts(before.mesh), getMeshFacts(after.mesh)];
  const ratio = now.size / old.size;
  const size =
    Math.abs(ratio - 1) > 0.001
      ? [
          `Its size is ${ratio.toPrecision(4)} times what it was: what counts in metres covers ` +
            'another share of it; what counts in object sizes does not change.',
        ]
      : [];
  const names = ({ attributes }: typeof old): readonly string[] =>
    attributes.map(({ name }) => name);
  const [were, are] = [maskMeans(before, texels), maskMeans(after, texels)];
  return {
    facts: [
      ...size,
      ...nameChanges('the part', old.partNames, now.partNames),
      ...nameChanges('the attribute', names(old), names(now)),
    ],
    masks: [...were].map(([title, mean]) => ({ title, before: mean, after: are.get(title) ?? 0 })),
  };
}
