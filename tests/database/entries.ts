/** Groups that are packaged and published, for tests of what stands in the library. */
import { getInputValue } from '@/core/compile/uniforms';
import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { addNode, setValue } from '@/core/edit/nodes';
import type { NetworkDocument } from '@/core/graph/document';
import { bringIn } from '@/core/releases/release-groups';
import {
  decide,
  findEntryByName,
  findRelease,
  insertRelease,
  listReleases,
} from '@/db/queries/library';
import type { SignedIn } from '@/server/authentication';
import { openRelease } from '@/server/library';
import { openMaterial, saveMaterial } from '@/server/materials';
import { startPublication } from '@/server/publication';
import { strand } from '../support/networks';
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

/** Saves the source with its group changed. @returns the revision */
export async function changeSource(
  user: SignedIn,
  { materialId }: Source,
  edit: (document: NetworkDocument) => NetworkDocument,
): Promise<number> {
  const now = await openMaterial(user, materialId);
  const saved = await saveMaterial(user, materialId, {
    base: now.revision,
    modelId: now.modelId,
    document: edit(now.document),
  });
  return saved.revision;
}
/** The group with a value that shows. */
export const coarser =
  ({ groupId }: Source) =>
  (document: NetworkDocument): NetworkDocument =>
    setValue(document, groupId, 'n1', 'scale', 3);
/** The next release of an entry, asked for. */
export const nextRelease = (
  entry: Source & { entryId: string },
  name: string,
  revision: number,
  base = '1.0.0',
) => asked(entry, name, { revision, next: { entryId: entry.entryId, base } });

/** A material of somebody's that uses the first release, with a dial at half. */
export async function storeUser(
  who: SignedIn,
  entryId: string,
  projectId = 'ferry',
): Promise<string> {
  const { groups } = await openRelease(who, entryId, '1.0.0');
  const { id } = await make(who, painted(), projectId);
  const now = await openMaterial(who, id);
  const brought = bringIn(now.document, { entryId, version: '1.0.0', groups });
  const added = addNode(brought.document, null, 'group', [0, 0], brought.groupId);
  const group = added.document.groups[brought.groupId as never] as NetworkDocument['groups'][never];
  const set = setValue(added.document, null, added.id, group.dials[0]?.id ?? '', 0.5);
  const { network } = set;
  const document = {
    ...set,
    network: {
      ...network,
      strands: [
        ...network.strands.filter(({ to }) => to.input !== 'roughness'),
        strand(`${added.id}:${group.outputs[0]?.id ?? ''} > n3:roughness`),
      ],
    },
  };
  await saveMaterial(who, id, { base: 1, modelId: 'demo-tile', document });
  return id;
}
/** The version a material has of an entry, and its card's own value. */
export async function releaseIn(who: SignedIn, materialId: string, entryId: string) {
  const { document, revision } = await openMaterial(who, materialId);
  const group = Object.values(document.groups).find(({ release }) => release?.entryId === entryId);
  const card = document.network.nodes.find((node) => node.group === group?.id);
  const dial = group?.dials[0]?.id ?? '';
  return {
    version: group?.release?.version,
    value: card && getInputValue(card, dial),
    revision,
    document,
  };
}

/** A proposed release of an entry, like its first; the one of before is sent back. */
export async function proposeNext(
  entryId: string,
  authorId: string,
  version: string,
): Promise<string> {
  const release = await findRelease(entryId, '1.0.0');
  if (!release) throw new Error('the entry has no release');
  for (const { version: before, state } of await listReleases(entryId))
    if (state === 'proposed')
      await decide(entryId, before, { state: 'returned', remarks: [], decidedBy: authorId });
  const { groups, documentVersion, swatchHash, sourceMaterialId, sourceRevision } = release;
  await insertRelease(
    { id: entryId, rack: '', name: '', description: '', tags: [], authorId },
    {
      ...{ entryId, groups, documentVersion, sourceMaterialId, sourceRevision, swatchHash },
      ...{ contentHash: version, authorId, state: 'proposed', baseVersion: '1.0.0' },
    },
    () => version,
  );
  return version;
}
