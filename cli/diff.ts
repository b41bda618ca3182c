import { mkdir } from 'node:fs/promises';
import path from 'node:path';
import type { DocumentChange } from '@/core/compare/change';
import { listChanges } from '@/core/compare/document-changes';
import { measureChanges, sortChanges } from '@/core/compare/change-shares';
import type { MeasuredChange } from '@/core/compare/change-shares';
import { differencePicture, perceptualDifference } from '@/core/compare/picture-difference';
import type { PictureDifference } from '@/core/compare/picture-difference';
import { MaterialPainter } from '@/core/evaluate/material-painter';
import type { Picture } from '@/core/evaluate/picture';
import { encodeRgba } from '@/core/exchange/png';
import type { NetworkDocument } from '@/core/graph/document';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { UsageError } from './arguments';
import type { Arguments } from './arguments';
import { readDocument } from './read-document';
import { readImages } from './read-images';
import { readModel } from './read-model';
import { writeOut } from './write-out';

const SIZES = [64, 128, 256, 512, 1024];
const MAP_SIZE = 256;
/** How many times the picture of the difference exaggerates it. */
const EXAGGERATED = 4;

interface Compared {
  readonly changes: readonly MeasuredChange<DocumentChange>[];
  /** Absent without a model. */
  readonly difference?: PictureDifference;
  /** How far the pictures are apart to the eye, ΔEOK. */
  readonly perceptual?: number;
  readonly sum?: number;
  readonly pictures?: readonly [Picture, Picture];
}

/** The changes; where there is a model, with the share of the difference each accounts for. */
async function compare(
  before: NetworkDocument,
  after: NetworkDocument,
  model: unknown,
  size: number,
  complain: (text: string) => void,
): Promise<Compared> {
  const changes = listChanges(before, after);
  if (typeof model !== 'string')
    return { changes: sortChanges(changes.map((change) => ({ change, share: null }))) };
  const analysis = new MeshAnalysis(await readModel(model, complain));
  const painter = new MaterialPainter(
    { analysis, maps: (settings, detail) => analysis.quickMap(settings, MAP_SIZE, detail) },
    size,
  );
  const measured = measureChanges(before, after, changes, (document) => painter.paint(document));
  return { ...measured, perceptual: perceptualDifference(...measured.pictures) };
}

/** Lists what sets two documents apart, and with a model how much each change shows. */
export async function runDiff(
  { positionals, values }: Arguments,
  print: (text: string) => void,
  complain: (text: string) => void,
): Promise<number> {
  const [first, second] = positionals;
  if (!first || !second) throw new UsageError('diff needs two documents.');
  const { model, out } = values;
  if (typeof out === 'string' && typeof model !== 'string')
    throw new UsageError('--out takes pictures, which need --model.');
  const size = Number(values['size'] ?? 256);
  if (!SIZES.includes(size)) throw new UsageError(`--size is one of ${SIZES.join(', ')}.`);
  const [before, after] = [await readDocument(first), await readDocument(second)];
  for (const document of [before, after]) await readImages(document, values['images'], complain);
  const compared = await compare(before, after, model, size, complain);
  if (values['json']) print(asJson(compared));
  else tell(compared, print);
  if (typeof out === 'string' && compared.pictures) await writePictures(out, compared.pictures);
  return 0;
}

const asJson = ({ changes, difference, perceptual, sum }: Compared): string =>
  JSON.stringify({
    format: 'bright-loom/difference',
    version: 1,
    ...(difference ? { difference, perceptual, sum } : {}),
    changes: changes.map(({ change: { undo: _undo, ...told }, share }) => ({ ...told, share })),
  });

const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;

function tell(
  { changes, difference, perceptual, sum }: Compared,
  print: (text: string) => void,
): void {
  if (changes.length === 0) print('The documents are the same.');
  for (const { change, share } of changes) {
    const { kind, place, what, before, after } = change;
    const measured = share === null ? '' : `${percent(share).padStart(8)}  `;
    print(`${measured}${kind}: ${place}: ${what}, ${before} → ${after}`);
  }
  if (!difference) return;
  print(
    `The pictures differ in ${percent(difference.share)} of their pixels, ` +
      `in the mean by ${percent(difference.mean)}, at most by ${percent(difference.largest)}; ` +
      `to the eye by ${(perceptual ?? 0).toFixed(4)} (ΔEOK; 0.02 is just noticeable).`,
  );
  print(
    `Undone one by one the changes account for ${percent(sum ?? 0)}; where that is not near ` +
      '100 %, they act on each other.',
  );
}

async function writePictures(out: string, [a, b]: readonly [Picture, Picture]): Promise<void> {
  await mkdir(out, { recursive: true });
  const pictures = { before: a, after: b, difference: differencePicture(a, b, EXAGGERATED) };
  for (const [name, { width, height, pixels }] of Object.entries(pictures))
    await writeOut(path.join(out, `${name}.png`), encodeRgba(width, height, pixels));
}
