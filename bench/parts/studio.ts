/** What the studio around the materials costs: its pages, and files that leave and come in. */
import { milliseconds, times } from '../runner/part';
import type { NoteRow, Part } from '../runner/part';
import { measureFiles } from '../studio/files';
import { measureStudioPages } from '../studio/pages';
import { APPLICATION } from './stage';

async function pages(row: NoteRow): Promise<void> {
  for (const { name, few, many } of await measureStudioPages())
    row(name, `p95 ${milliseconds(few)}, ${milliseconds(many)} (${times(many / few)})`, many);
}

async function files(row: NoteRow): Promise<void> {
  const { megabytes, ...ways } = await measureFiles();
  for (const [way, { seconds, grown }] of Object.entries(ways))
    row(
      `a material file of ${megabytes.toFixed(0)} MB, ${way}`,
      `${seconds.toFixed(1)} s, memory of the server +${(grown / 1e6).toFixed(0)} MB`,
      seconds,
    );
}

export const STUDIO_PARTS: readonly Part[] = [
  { id: 'pages', needs: APPLICATION, measure: pages },
  { id: 'files', needs: APPLICATION, measure: files },
];
