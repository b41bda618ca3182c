import {
  bakeRows,
  makeBakeSession,
  pictureRows,
  planBake,
  getRecipe,
  planStrips,
} from '../evaluate/bake';
import type { BakeImage, BakePlan, BakedRows } from '../evaluate/bake';
import type { MapSource } from '../evaluate/session';
import { joinStrips, packRows } from '../exchange/png-strips';
import type { PngLayout, PngStrip } from '../exchange/png-strips';
import type { NetworkDocument } from '../graph/document';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import type { PackagedFile } from './exports/define';
import { EXPORTS } from './exports/registry.generated';
import { bakeRequest } from './formats';
import type { ExportName, HandoffRequest } from './formats';

/** A file name made of letters, digits and hyphens. */
export function fileName(text: string): string {
  return (
    text
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'material'
  );
}

const layoutOf = ({ size }: BakePlan, image: BakeImage): PngLayout => ({
  width: size,
  height: size,
  channels: getRecipe(image).channels.length as 1 | 3 | 4,
  depth: image.depth,
  meaning: getRecipe(image).meaning,
});

/**
 * Turns evaluated rows into compressed rows of every picture of the plan, in its order. Strips may
 * be packed in any order.
 */
export function packBakedRows(baked: BakedRows): readonly PngStrip[] {
  const { plan, rows } = baked;
  return plan.images.map((image) =>
    packRows(layoutOf(plan, image), pictureRows(baked, image), {
      isFirst: rows[0] === 0,
      isLast: rows[1] === plan.size,
    }),
  );
}

/**
 * The files of a finished bake in the formats asked for. `strips` in order from the top.
 */
export async function packageBake(
  mesh: SurfaceMesh,
  name: string,
  plan: BakePlan,
  strips: readonly (readonly PngStrip[])[],
  formats: readonly ExportName[],
): Promise<readonly PackagedFile[]> {
  const picture = (image: BakeImage): Uint8Array => {
    const k = plan.images.indexOf(image);
    return joinStrips(
      layoutOf(plan, image),
      strips.map((strip) => strip[k] as PngStrip),
    );
  };
  const files: PackagedFile[] = [];
  for (const format of formats)
    files.push(
      ...(await EXPORTS[format].write({ mesh, name, stem: fileName(name), plan, picture })),
    );
  return files;
}

/** A whole bake on one thread. @throws CompileError when the document has errors */
export async function bakeFiles(
  document: NetworkDocument,
  mesh: SurfaceMesh,
  maps: MapSource,
  request: HandoffRequest,
): Promise<{ readonly files: readonly PackagedFile[]; readonly notes: readonly string[] }> {
  const session = makeBakeSession();
  const plan = planBake(session, document, mesh, maps, bakeRequest(request));
  const strips = planStrips(request.size).map((rows) =>
    packBakedRows(bakeRows(session, document, mesh, plan, maps, rows)),
  );
  return {
    files: await packageBake(mesh, document.name || 'Material', plan, strips, request.formats),
    notes: plan.notes,
  };
}
