import type { LaneName } from '@/core/base/ids';
import { parseLaneName } from '@/core/base/lane-name';
import { WasmRunner } from '@/core/backends/wasm/runner';
import { uniformsFor } from '@/core/compile/compile';
import type { CompiledNetwork } from '@/core/compile/compile';
import { bindImages, imageDemands } from '@/core/compile/images';
import { threadImages } from '@/core/evaluate/image-store';
import type { NetworkDocument } from '@/core/graph/document';
import { gatherLane, listAttributes } from './points-file';
import type { PointRecord, PointsFile } from './points-file';

const DEFAULT_MODEL = { size: 1, minimum: [-0.5, -0.5, -0.5] as const, extent: [1, 1, 1] as const };

/** Runs a program at the points of a file. @returns an array for each output of the program */
export function evaluatePoints(
  compiled: CompiledNetwork,
  document: NetworkDocument,
  { points, model }: PointsFile,
): readonly Float32Array[] {
  const runner = new WasmRunner(compiled.program);
  const uniforms = uniformsFor(compiled, document, {
    ...(model ?? DEFAULT_MODEL),
    attributes: listAttributes(points),
  });
  runner.setImages(
    bindImages(imageDemands(compiled.imageSlots, document), uniforms, (hash, reading) =>
      threadImages.sheet(hash, reading),
    ),
  );
  runner.setUniforms(uniforms);
  const byField = mapFieldsByKind(compiled);
  const lanes = new Map(
    compiled.program.inputs.map((name) => [
      name,
      isRead(compiled, name) ? gatherLane(withKinds(points, byField), name, byField) : undefined,
    ]),
  );
  const outputs = compiled.program.outputs.map(() => new Float32Array(points.length));
  runner.run((name) => lanes.get(name), points.length, outputs);
  return outputs;
}

/** Whether some live value reads an input: unused ones need not be in the file. */
function isRead(compiled: CompiledNetwork, name: string): boolean {
  return compiled.liveInputs.has(name);
}

/**
 * A field may be given per node (by its path) or once for all nodes of a kind (“curvature”,
 * “occlusion”).
 */
function mapFieldsByKind(compiled: CompiledNetwork): ReadonlyMap<string, string> {
  return new Map(compiled.mapSlots.map((slot) => [mapField(slot.field), slot.kind]));
}

const mapField = (name: LaneName): string => {
  const lane = parseLaneName(name);
  return lane.of === 'map' ? lane.field : '';
};

function withKinds(
  points: readonly PointRecord[],
  kinds: ReadonlyMap<string, string>,
): readonly PointRecord[] {
  if (kinds.size === 0) return points;
  return points.map((point) => ({
    ...point,
    fields: {
      ...point.fields,
      ...Object.fromEntries(
        [...kinds].flatMap(([node, kind]) => {
          const given = point.fields?.[node] ?? point.fields?.[kind];
          return given === undefined ? [] : [[node, given]];
        }),
      ),
    },
  }));
}
