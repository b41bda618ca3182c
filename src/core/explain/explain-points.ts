import type { NodeId, ResultKey } from '../base/ids';
import { describePorts } from '../compile/catalogue';
import { compileNetwork } from '../compile/compile';
import type { CompiledNetwork } from '../compile/compile';
import { findUsedOutputs } from '../compile/used-outputs';
import { findNode } from '../compile/uniforms';
import type { NetworkDocument, ValueKind } from '../graph/document';
import { isOutputKey, parseResultKey } from '../graph/result-key';
import { PLAIN_SURFACE, SURFACE_LANES } from '../nodes/surface-parameters';
import { setLanes } from './set-channels';
import { titlesAlong } from '../compile/told-apart';

/** What leaves one output at some points. */
export interface ExplainedOutput {
  readonly key: ResultKey;
  /** The nodes that lead to the one it belongs to, that one last. */
  readonly path: readonly NodeId[];
  /** What the groups and the node are called, from the outside in. */
  readonly names: readonly string[];
  /** The title of the output. */
  readonly output: string;
  readonly kind: ValueKind;
  /** The names of its channels, such as `r` or `roughness`; empty for a plain number. */
  readonly channels: readonly string[];
  /** Each point's value in every channel, in single precision. */
  readonly values: readonly (readonly number[])[];
  /** The channels that somebody set, here or in a surface it is made of; all of what is none. */
  readonly set: readonly number[];
}

/** What makes a finished surface at some points. */
export interface Explanation {
  /** The finished surface itself: every channel at each point. */
  readonly surface: Pick<ExplainedOutput, 'channels' | 'values' | 'set'>;
  /** Whatever it depends on: from the surface back to the sources. */
  readonly outputs: readonly ExplainedOutput[];
}

/** The names of the channels of each kind; a plain number has one without a name. */
export const CHANNELS: Readonly<Record<ValueKind, readonly string[]>> = {
  scalar: [],
  vector: ['x', 'y', 'z'],
  colour: ['r', 'g', 'b'],
  surface: SURFACE_LANES,
};

/** A `CompileRequest` whose results are named. */
interface ExplainRequest {
  readonly surface: true;
  readonly taps: readonly ResultKey[];
}

/**
 * What a program must write for a document to be explained: the finished surface, and every output
 * that it depends on, surfaces included.
 * @throws CompileError with all findings when the document has errors
 */
export function explainRequest(document: NetworkDocument): ExplainRequest {
  const surface = { surface: true, taps: [] };
  const used = findUsedOutputs(document, surface);
  const { kinds } = compileNetwork(document, surface);
  // Results come into being in the order in which the nodes act.
  const taps = [...kinds.keys()].filter((key) => isOutputKey(key) && used.has(key)).reverse();
  return { surface: true, taps };
}

/**
 * Reads the values of a program that was compiled for `explainRequest` at some points.
 * @param outputs what the program wrote: an array for each of its outputs, a number for each point
 */
export function readExplanation(
  document: NetworkDocument,
  { slots }: Pick<CompiledNetwork, 'slots'>,
  outputs: readonly Float32Array[],
): Explanation {
  const count = outputs[0]?.length ?? 0;
  const valuesOf = (first: number, lanes: number): readonly (readonly number[])[] =>
    Array.from({ length: count }, (_, point) =>
      Array.from({ length: lanes }, (_lane, k) => outputs[first + k]?.[point] ?? NaN),
    );
  const explained = slots.flatMap(
    ({ key, kind, first, lanes }): readonly Omit<ExplainedOutput, 'set'>[] => {
      if (!isOutputKey(key)) return [];
      const { path, port } = parseResultKey(key);
      const node = findNode(document, path);
      const view = node && describePorts(document, node)?.outputs.find(({ id }) => id === port);
      return [
        {
          key,
          path,
          names: titlesAlong(document, path),
          output: view?.title ?? port,
          kind,
          channels: CHANNELS[kind],
          values: valuesOf(first, lanes),
        },
      ];
    },
  );
  const surface = slots.find(({ key }) => !isOutputKey(key));
  const values = surface ? valuesOf(surface.first, surface.lanes) : [];
  const { told, ofAll } = markSet(document, explained);
  return { surface: { channels: SURFACE_LANES, values, set: ofAll }, outputs: told };
}

/** Marks the channels of each output that somebody set, and those of the surface at the end. */
function markSet(
  document: NetworkDocument,
  outputs: readonly Omit<ExplainedOutput, 'set'>[],
): { told: readonly ExplainedOutput[]; ofAll: readonly number[] } {
  const ofMakers = outputs.map(({ path, kind, values }) => {
    if (kind !== 'surface') return null;
    const lanes = setLanes(document, path);
    const differs = (lane: number): boolean =>
      !(SURFACE_LANES[lane] ?? '').startsWith('normal') &&
      values.some((point) => point[lane] !== Math.fround(PLAIN_SURFACE[lane] ?? NaN));
    return lanes === 'of its own'
      ? SURFACE_LANES.flatMap((_, lane) => (differs(lane) ? [lane] : []))
      : lanes && SURFACE_LANES.flatMap((name, lane) => (lanes.has(name) ? [lane] : []));
  });
  const ofAll = [...new Set(ofMakers.flatMap((lanes) => lanes ?? []))].sort((a, b) => a - b);
  return {
    ofAll,
    told: outputs.map((output, k) => ({
      ...output,
      set:
        output.kind === 'surface'
          ? (ofMakers[k] ?? ofAll)
          : Array.from({ length: Math.max(1, output.channels.length) }, (_, channel) => channel),
    })),
  };
}

/** The channels of an output, those that somebody set first; a plain number has one. */
export function setFirst(
  channels: readonly string[],
  set: readonly number[],
): readonly { readonly channel: string; readonly k: number; readonly isSet: boolean }[] {
  const all = (channels.length > 0 ? channels : ['']).map((channel, k) => ({
    channel,
    k,
    isSet: set.includes(k),
  }));
  return [...all.filter(({ isSet }) => isSet), ...all.filter(({ isSet }) => !isSet)];
}

const written = (value: number): string => (Number.isFinite(value) ? String(value) : 'no number');

/**
 * An explanation as a table: a line for each channel, with tabs between; the columns are place,
 * output, channel and one for each point.
 */
export function explanationTable({ surface, outputs }: Explanation): string {
  const points = surface.values.length;
  const head = ['place', 'output', 'channel'].concat(
    Array.from({ length: points }, (_, k) => `point ${String(k + 1)}`),
  );
  const linesOf = (
    place: string,
    output: string,
    { channels, values, set }: Pick<ExplainedOutput, 'channels' | 'values' | 'set'>,
  ): string[][] =>
    setFirst(channels, set).map(({ channel, k }) => [
      ...[place, output, channel],
      ...values.map((value) => written(value[k] ?? NaN)),
    ]);
  return [
    head,
    ...linesOf('finished surface', '', surface),
    ...outputs.flatMap((each) => linesOf(each.names.join(' / '), each.output, each)),
  ]
    .map((cells) => cells.map((cell) => cell.replace(/[\t\n]/g, ' ')).join('\t'))
    .join('\n');
}
