import { AppError } from '@/core/base/diagnostic';
import type { ResultKey } from '@/core/base/ids';
import { isOutputKey, readableKey } from '@/core/graph/result-key';
import { compileNetwork } from '@/core/compile/compile';
import type { CompiledNetwork, OutputSlot } from '@/core/compile/compile';
import { SURFACE_LANES } from '@/core/nodes/surface-parameters';
import { readImages } from './read-images';
import { adviseDocument } from '@/core/advice/advise';
import { watchedIn } from '@/core/advice/watched';
import type { NetworkDocument } from '@/core/graph/document';
import { UsageError } from './arguments';
import type { Arguments } from './arguments';
import { evaluatePoints } from './evaluate-points';
import { readDocument } from './read-document';
import { readPoints } from './points-file';

export async function runEval(
  { positionals, values }: Arguments,
  print: (text: string) => void,
  complain: (text: string) => void,
): Promise<number> {
  const [file] = positionals;
  const pointsFile = values['points'];
  if (!file || typeof pointsFile !== 'string')
    throw new UsageError('eval needs a document and --points.');
  const document = await readDocument(file);
  const points = await readPoints(pointsFile);
  await readImages(document, values['images'], complain);
  const wanted =
    typeof values['outputs'] === 'string'
      ? values['outputs'].split(',').map((name) => name.trim())
      : null;
  const compiled = wanted
    ? compileWanted(document, wanted)
    : compileNetwork(document, { surface: true, taps: 'all', watched: watchedIn(document) });
  const outputs = evaluatePoints(compiled, document, points);
  const shown = compiled.slots.filter(({ key }) => key === SURFACE || isOutputKey(key));
  const results = Object.fromEntries(
    shown.flatMap((slot) => describeSlot(slot, outputs, points.points.length)),
  );
  const findings = wanted ? [] : adviseDocument(document, compiled, outputs);
  if (values['json'])
    print(
      JSON.stringify({
        format: 'bright-loom/values',
        version: 1,
        count: points.points.length,
        outputs: results,
        ...(wanted ? {} : { findings }),
      }),
    );
  else {
    for (const [name, list] of Object.entries(results))
      print(`${name}: ${list.map((value) => JSON.stringify(value)).join(' ')}`);
    for (const finding of findings)
      complain(`note: ${finding.node}: ${finding.message} [${finding.code}]`);
  }
  return 0;
}

/** The name by which the finished surface is asked for. */
const SURFACE = 'surface';

/** Compiles the outputs named, each as a person writes it: `path/to/node:output`. */
function compileWanted(document: NetworkDocument, wanted: readonly string[]): CompiledNetwork {
  const all = [...compileNetwork(document, { surface: false, taps: [] }).kinds.keys()].filter(
    isOutputKey,
  );
  const named = wanted.filter((name) => name !== SURFACE);
  const keyFor = (name: string): ResultKey | undefined =>
    all.find((key) => key === name) ?? all.find((key) => readableKey(key) === name);
  const missing = named.filter((name) => keyFor(name) === undefined);
  if (missing.length > 0)
    throw new AppError(
      'eval.no-output',
      `The network has no output ${missing.join(', ')}.`,
      `It has: ${all.map(readableKey).join(', ')}.`,
    );
  return compileNetwork(document, {
    surface: wanted.includes(SURFACE),
    taps: named.map((name) => keyFor(name) ?? name),
  });
}

function describeSlot(
  slot: OutputSlot,
  outputs: readonly Float32Array[],
  count: number,
): [string, readonly unknown[]][] {
  const number = (value: number | undefined): number | string =>
    value === undefined || !Number.isFinite(value) ? String(value) : value;
  if (slot.kind === 'surface') {
    return SURFACE_LANES.map((name, k) => [
      `${slot.key}.${name}`,
      Array.from({ length: count }, (_, point) => number(outputs[slot.first + k]?.[point])),
    ]);
  }
  const at = (point: number): (number | string)[] =>
    Array.from({ length: slot.lanes }, (_, k) => number(outputs[slot.first + k]?.[point]));
  return [
    [
      slot.key,
      Array.from({ length: count }, (_, point) => (slot.lanes === 1 ? at(point)[0] : at(point))),
    ],
  ];
}
