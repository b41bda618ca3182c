/** Groups that are packaged and published, for tests of what stands in the library. */
import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { findEntryByName } from '@/db/queries/library';
import type { SignedIn } from '@/server/authentication';
import { saveMaterial } from '@/server/materials';
import { startPublication } from '@/server/publication';
import { make, painted } from './ferry-studio';
import { workOff } from './studio';

/** Where a group stands that is published. */
export interface Source {
  readonly materialId: string;
  readonly groupId: string;
}
/** A material with a packaged group of two dials. */
export async function packaged(user: SignedIn): Promise<Source> {
  const { id } = await make(user);
  const grouped = groupSelection(painted(), {
    board: null,
    ids: ['n1', 'n2'],
    name: 'Grain',
    path: [],
    source: { materialId: id, revision: 1 },
  });
  const dialled = ['scale', 'detail'].reduce(
    (document, input) =>
      addDial(document, grouped.groupId, 'n1', input, 'times', input)?.document ?? document,
    grouped.document,
  );
  await saveMaterial(user, id, { base: 1, modelId: 'demo-tile', document: dialled });
  return { materialId: id, groupId: grouped.groupId };
}
export const asked = ({ materialId, groupId }: Source, name: string, more: object = {}) => ({
  materialId,
  groupId,
  revision: 2,
  rack: 'studio',
  name,
  description: 'Fine grain on everything',
  tags: ['mask'],
  next: null,
  notes: '',
  ...more,
});
type Asked = Parameters<typeof startPublication>[1];
export const published = async (user: SignedIn, request: Asked) =>
  workOff((await startPublication(user, request)).id);

/** An entry of the studio rack with one release, and where it came from. */
export async function publishedEntry(
  author: SignedIn,
  name: string,
): Promise<Source & { readonly entryId: string }> {
  const source = await packaged(author);
  await published(author, asked(source, name));
  return { ...source, entryId: (await findEntryByName('studio', name))?.id ?? '' };
}
