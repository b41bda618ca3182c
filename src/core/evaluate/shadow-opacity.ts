import type { NetworkDocument } from '../graph/document';
import { MAP_SIZE } from '../mesh/analysis';
import { fillGutter, planGutter } from '../mesh/gutter';
import { laneIndices } from '../nodes/surface-parameters';
import type { LoadedModel } from './loaded-model';
import { EvaluationSession } from './session';

const [OPACITY = 0] = laneIndices('opacity');
/** Texels beyond charts that are filled: light meets the surface between texels, too. */
const GUTTER = 4;

/** How much light each place of a surface stops, for the shadows it throws. */
export interface ShadowOpacity {
  /** Texels a side of the atlas. */
  readonly size: number;
  /** 0–255 a texel, rows from the top. */
  readonly texels: Uint8Array<ArrayBuffer>;
}

/** Finds what a surface stops of the light; the program is kept while only values change. */
export class ShadowOpacityReader {
  private readonly session = new EvaluationSession({
    surface: true,
    taps: [],
    antialias: ['images'],
  });

  /** @throws CompileError when the document has errors */
  read({ analysis, mesh, maps }: LoadedModel, document: NetworkDocument): ShadowOpacity {
    const size = MAP_SIZE.fine;
    const { raster, points } = analysis.raster(size);
    const wanted = new Set([OPACITY]);
    const lane = this.session.evaluate(document, mesh, points, maps, { wanted })[OPACITY];
    const values = new Float32Array(size * size).fill(1);
    const covered = new Uint8Array(size * size);
    raster.texels.forEach((texel, k) => {
      values[texel] = lane?.[k] ?? 1;
      covered[texel] = 1;
    });
    fillGutter(values, planGutter(covered, size, GUTTER), 1);
    const texels = Uint8Array.from(values, (value) => 255 * Math.min(1, Math.max(0, value)));
    return { size, texels };
  }
}
