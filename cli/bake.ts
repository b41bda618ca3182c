import { mkdir } from 'node:fs/promises';
import path from 'node:path';
import { EXPORT_FORMATS, isExportName } from '@/core/handoff/formats';
import type { ExportName } from '@/core/handoff/formats';
import { bakeFiles } from '@/core/handoff/packaging';
import { MeshAnalysis, mapKey } from '@/core/mesh/analysis';
import type { DetailSource, MapSettings } from '@/core/mesh/analysis';
import type { MeshMap } from '@/core/mesh/mesh-map';
import type { Arguments } from './arguments';
import { UsageError } from './arguments';
import { readDocument } from './read-document';
import { readImages } from './read-images';
import { readPreparation, readModel } from './read-model';
import { writeOut } from './write-out';

/** The formats asked for, with commas between them; all where none are. */
function readFormats(text: unknown): readonly ExportName[] {
  const all = EXPORT_FORMATS.map(([name]) => name);
  if (typeof text !== 'string') return all;
  return text.split(',').map((each) => {
    const name = each.trim();
    if (!isExportName(name))
      throw new UsageError(`There is no format “${name}”; there are ${all.join(', ')}.`);
    return name;
  });
}

const SIZES = [64, 128, 256, 512, 1024, 2048, 4096];

export async function runBake(
  { positionals, values }: Arguments,
  print: (text: string) => void,
  complain: (text: string) => void,
): Promise<number> {
  const [file] = positionals;
  const { model, out } = values;
  if (!file || typeof model !== 'string' || typeof out !== 'string')
    throw new UsageError('bake needs a document, --model and --out.');
  const size = Number(values['size'] ?? 1024);
  if (!SIZES.includes(size)) throw new UsageError(`--size is one of ${SIZES.join(', ')}.`);
  const depth = Number(values['depth'] ?? 8);
  if (depth !== 8 && depth !== 16) throw new UsageError('--depth is 8 or 16.');
  const formats = readFormats(values['formats']);
  const document = await readDocument(file);
  await readImages(document, values['images'], complain);
  const mesh = await readModel(model, complain, readPreparation(values));
  const analysis = new MeshAnalysis(mesh);
  const maps = new Map<string, MeshMap>();
  const measured = (settings: MapSettings, detail?: DetailSource): MeshMap => {
    const key = mapKey(settings);
    const map =
      maps.get(key) ?? analysis.fineMap(settings, Math.min(1024, Math.max(256, size)), detail);
    maps.set(key, map);
    return map;
  };
  const { files, notes } = await bakeFiles(document, mesh, measured, { size, depth, formats });
  for (const note of notes) complain(note);
  await mkdir(out, { recursive: true });
  for (const { name, bytes } of files) {
    await writeOut(path.join(out, name), bytes);
    print(path.join(out, name));
  }
  return 0;
}
