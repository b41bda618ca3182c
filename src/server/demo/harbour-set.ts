import { addNode, setValue } from '@/core/edit/nodes';
import { connect } from '@/core/edit/strands';
import { hashContent } from '@/core/graph/canonical';
import { OUTPUT_EDGE, SURFACE_OUTPUT } from '@/core/graph/document';
import type { NetworkDocument } from '@/core/graph/document';
import { bringIn } from '@/core/releases/release-groups';
import { findEntry, findEntryByName } from '@/db/queries/library';
import { findMaterial, insertMaterial, saveRevision } from '@/db/queries/materials';
import { arrangeEntry } from '../entry-places';
import { publish } from '../publish';
import { findRelease, findRevision } from '../stored';
import { requestSwatch } from '../swatches';
import { DEMO_MATERIALS } from './materials';
import { demoPerson } from './people';

/** Materials of the harbour set: a starter each, and the groups of the library laid over it. */
const SET = [
  {
    name: 'Lantern cap, worn',
    from: 'lantern-brass',
    groups: ['Worn edges', 'Salt in crevices'],
  },
  { name: 'Mooring bell, worn', from: 'bell-bronze', groups: ['Worn edges'] },
  {
    name: 'Bollard, worn and salted',
    from: 'painted-tin',
    groups: ['Worn edges', 'Salt in crevices'],
  },
  { name: 'Quay steps, worn', from: 'quay-stone', groups: ['Worn edges'] },
  { name: 'Harbour tile, salted', from: 'stoneware', groups: ['Worn edges', 'Salt in crevices'] },
] as const;

/** Where a group is laid over a finished surface: bright salt, or bare primer. */
const OVER: Readonly<Record<string, readonly [number, number, number]>> = {
  'Worn edges': [0.36, 0.33, 0.3],
  'Salt in crevices': [0.86, 0.87, 0.84],
};

interface Placed {
  readonly entryId: string;
  readonly name: string;
  readonly groups: NonNullable<Awaited<ReturnType<typeof findRelease>>>['groups'];
}

async function readFirst(name: string): Promise<Placed> {
  const entryId = (await findEntryByName('studio', name))?.id ?? '';
  const release = await findRelease(entryId, '1.0.0');
  if (!release) throw new Error(`Invariant broken: ${name} was not published`);
  return { entryId, name, groups: release.groups };
}

/** Lays a plain coat over the finished surface where a group of the library says. */
function coated(
  given: NetworkDocument,
  { entryId, name, groups }: Placed,
  at: number,
): NetworkDocument {
  const end = given.network.strands.find(({ to }) => to.node === OUTPUT_EDGE)?.from;
  if (!end) throw new Error('Invariant broken: a starter without a surface');
  const brought = bringIn(given, { entryId, version: '1.0.0', groups });
  const card = addNode(brought.document, null, 'group', [at, 420], brought.groupId);
  const coat = addNode(card.document, null, 'surface.surface', [at, 640]);
  const layer = addNode(coat.document, null, 'surface.layer', [at + 200, 420]);
  const output = groups.definitions[groups.root]?.outputs[0]?.id ?? '';
  const wires = [
    [end, { node: layer.id, input: 'under' }],
    [
      { node: coat.id, output: 'surface' },
      { node: layer.id, input: 'over' },
    ],
    [
      { node: card.id, output },
      { node: layer.id, input: 'where' },
    ],
    [
      { node: layer.id, output: 'surface' },
      { node: OUTPUT_EDGE, input: SURFACE_OUTPUT },
    ],
  ] as const;
  const wired = wires.reduce((now, [from, to]) => connect(now, null, from, to), layer.document);
  return setValue(wired, null, coat.id, 'baseColour', OVER[name] ?? [0.5, 0.5, 0.5]);
}

async function makeMaterials(): Promise<void> {
  for (const { name, from, groups } of SET) {
    const starter = DEMO_MATERIALS.find(({ id }) => id === `demo-${from}`);
    if (!starter) throw new Error(`Invariant broken: no starter ${from}`);
    let document: NetworkDocument = { ...starter.document(), name };
    for (const [k, group] of groups.entries())
      document = coated(document, await readFirst(group), 900 + k * 460);
    const id = `demo-set-${from}`;
    await insertMaterial({
      id,
      projectId: 'ferry',
      ownerId: 'tove',
      name,
      modelId: starter.model,
      document,
      contentHash: await hashContent(document),
    });
    await requestSwatch(id, name, 'tove');
  }
}

/** A change of a group in its workshop, published as the next release of its entry. */
async function fix(
  userId: string,
  entryName: string,
  workshop: string,
  change: (document: NetworkDocument, groupId: string) => NetworkDocument,
): Promise<void> {
  const entryId = (await findEntryByName('studio', entryName))?.id ?? '';
  const entry = await findEntry(entryId);
  const material = await findMaterial('maren', workshop);
  const revision = material && (await findRevision(workshop, material.head));
  const group = Object.values(revision?.document.groups ?? {}).find(
    ({ name, origin }) => name === entryName && origin !== undefined,
  );
  if (!material || !revision || !group)
    throw new Error(`Invariant broken: no workshop ${workshop}`);
  const document = change(revision.document, group.id);
  await saveRevision({
    materialId: workshop,
    base: material.head,
    name: document.name,
    modelId: material.modelId,
    document,
    contentHash: await hashContent(document),
    authorId: 'maren',
  });
  await publish(userId, {
    materialId: workshop,
    revision: material.head + 1,
    groupId: group.id,
    rack: 'studio',
    name: group.name,
    description: entry?.description ?? '',
    tags: [],
    next: { entryId, base: '1.0.0' },
    notes: '',
  });
}

/**
 * Materials that use groups of the library; then a fix that waits in three of them, one that waits
 * for a librarian, and an entry that is given up in favour of another.
 */
export async function makeHarbourSet(say: (text: string) => void): Promise<void> {
  say('making the demo studio: the harbour set');
  await makeMaterials();
  await fix('sefa', 'Salt in crevices', 'demo-painted-tin-salt-in-crevices', (document, group) =>
    setValue(document, group, 'salt', 'inBlack', 0.42),
  );
  await fix('maren', 'Worn edges', 'demo-painted-tin-worn-edges', (document, group) =>
    setValue(document, group, 'chips', 'width', 0.05),
  );
  const [old, better] = [
    await findEntryByName('studio', 'Damp places'),
    await findEntryByName('studio', 'Moss on tops'),
  ];
  if (!old || !better) throw new Error('Invariant broken: an entry is missing');
  await arrangeEntry(demoPerson('sefa'), old.id, {
    deprecated: { reason: 'Too uneven on large models', successorId: better.id },
  });
}
