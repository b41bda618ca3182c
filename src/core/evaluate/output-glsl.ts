import { present } from '../base/assert';
import { AXES, slopeLane } from '../base/lane-name';
import type { ResultKey } from '../base/ids';
import { imageSampler, inputVariable } from '../backends/glsl/emit';
import { composeFunction, usedImages } from '../backends/glsl/function-text';
import { getNodeTitle } from '../compile/catalogue';
import { compileNetwork, mapDemands, uniformsFor } from '../compile/compile';
import type { CompiledNetwork, MapDemand } from '../compile/compile';
import { bindImages, imageDemands } from '../compile/images';
import type { ImageSource } from '../compile/images';
import type { ModelScale } from '../compile/model-scale';
import { findNode, getInputValue } from '../compile/uniforms';
import { CHANNELS } from '../explain/explain-points';
import { isImage } from '../graph/document';
import type { NetworkDocument } from '../graph/document';
import { mapDefinition, resolveMapSettings } from '../mesh/analysis';
import { threadImages } from './image-store';

/**
 * An output of a document as a function of GLSL ES 3.00, with the present values as constants; it
 * takes what it uses, and says of measured maps and images what they are.
 * @param images where images come from; those known to this thread unless told otherwise
 * @returns null where there is no such output
 * @throws CompileError when the document has errors
 */
export function outputGlsl(
  document: NetworkDocument,
  key: ResultKey,
  model: ModelScale,
  images: ImageSource = (hash, reading) => threadImages.sheet(hash, reading),
): string | null {
  const compiled = compileNetwork(document, { surface: false, taps: [key] });
  const [slot] = compiled.slots;
  if (!slot) return null;
  const names = CHANNELS[slot.kind].map((name) => `out_${name.replace('.', '_')}`);
  const values = uniformsFor(compiled, document, model);
  bindImages(imageDemands(compiled.imageSlots, document), values, images);
  return composeFunction(compiled.program, {
    values,
    starts: [...compiled.bindings.map(({ index }) => index), ...imageBases(compiled)],
    outputs: names.length > 0 ? names : ['out_value'],
    takes: compiled.liveInputs,
    remarks: [
      ...mapDemands(compiled, values).flatMap((map) => mapRemarks(document, compiled, map, model)),
      ...imageRemarks(document, compiled, images),
    ],
  });
}

const imageBases = ({ imageSlots }: CompiledNetwork): number[] =>
  imageSlots.map(({ base }) => base);

const titleAt = (document: NetworkDocument, path: readonly string[]): string =>
  path
    .map((_, k) => findNode(document, path.slice(0, k + 1)))
    .map((node, k) => (node ? getNodeTitle(document, node) : present(path[k], 'id')))
    .join(' / ')
    // A name must not end the comment it stands in.
    .replace(/[\r\n\\\u2028\u2029]+/g, ' ');

/** A line for each argument that is the value of a measured map, or how it changes. */
function mapRemarks(
  document: NetworkDocument,
  { liveInputs }: CompiledNetwork,
  { field, path, kind, settings, choices, detail }: MapDemand,
  { size }: ModelScale,
): readonly string[] {
  const { settings: forms, title } = mapDefinition(kind);
  const resolved = Object.entries(resolveMapSettings(kind, settings, choices, size));
  const facts = resolved.flatMap(([name, value]) => {
    if (!Object.hasOwn(forms, name) || value === null) return [];
    return [
      `${name} ${typeof value === 'number' ? String(Number(value.toPrecision(6))) : String(value)}`,
    ];
  });
  const text =
    `${title} of “${titleAt(document, path)}” (${facts.join(', ')})` +
    (detail ? ', by the normals that arrive there' : '');
  return [
    { lane: field, means: text },
    ...AXES.map((axis) => ({
      lane: slopeLane(field, axis),
      means: `change along ${axis}, per metre, of the ${text}`,
    })),
  ].flatMap(({ lane, means }) =>
    liveInputs.has(lane) ? [`${inputVariable(lane)}: ${means}.`] : [],
  );
}

function imageRemarks(
  document: NetworkDocument,
  { program, imageSlots }: CompiledNetwork,
  images: ImageSource,
): readonly string[] {
  const used = new Set(usedImages(program));
  const demands = imageDemands(imageSlots, document);
  return imageSlots.flatMap(({ slot, path, input, reading }, k) => {
    if (!used.has(slot)) return [];
    const node = findNode(document, path);
    const value = node && getInputValue(node, input);
    const name = isImage(value) && value.name ? `, ${value.name}` : '';
    const hash = demands[k]?.hash;
    const sheet = hash ? images(hash, reading) : undefined;
    return [
      `${imageSampler(slot)}: the image of “${titleAt(document, path)}”` +
        `${name.replace(/[\r\n\\]+/g, ' ')}, read as ${reading}, linear: ` +
        (sheet
          ? `${String(sheet.width)} × ${String(sheet.height)} texels at (0, 0), and size l, each ` +
            `side halved l times, at (${String(sheet.width)}, ${String(sheet.rows)} − ` +
            `${String(sheet.rows)} · 2^(1 − l)).`
          : 'there is none.'),
    ];
  });
}
