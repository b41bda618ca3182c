import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { hashPassword } from 'better-auth/crypto';
import { addDial, changeDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { hashContent } from '@/core/graph/canonical';
import type { NetworkDocument } from '@/core/graph/document';
import { DEMO_MODELS } from '@/core/mesh/demo-models';
import { insertPerson, insertProject, isSeeded } from '@/db/queries/seeding';
import { storeBlob } from '@/db/queries/blobs';
import { insertMaterial, placeMaterial, saveRevision, setSwatch } from '@/db/queries/materials';
import { findModel, hasModel, insertModel } from '@/db/queries/models';
import { requestMaps } from '../mesh-maps';
import { publish } from '../publish';
import { prepareModel } from '../render';
import { DEMO_GROUPS } from './groups';
import type { DemoGroup } from './groups';
import { makeHarbourSet } from './harbour-set';
import { DEMO_MATERIALS } from './materials';
import { DEMO_PEOPLE, DEMO_PROJECTS } from './people';
import { keepDemoPresets } from './presets';

/**
 * Stores the models that ship, where they are not there: starters begin on them, and every group is
 * proved on two of them, in an empty studio, too.
 */
export async function storeShippedModels(): Promise<void> {
  for (const { name, title } of DEMO_MODELS) {
    const id = `demo-${name}`;
    if (await hasModel(id)) continue;
    const bytes = await readFile(path.join(process.cwd(), 'assets/models', `${name}.glb`));
    const blobHash = await storeBlob(bytes, 'model/gltf-binary');
    await insertModel({ id, name: title, projectId: null, blobHash, ownerId: null });
  }
}

/** Fills an empty database with the demo scenario; leaves one that has people in it alone. */
export async function seedDemo(password: string, say: (text: string) => void): Promise<void> {
  if (await isSeeded()) return;
  say('making the demo studio: people and projects');
  for (const project of DEMO_PROJECTS) await insertProject(project);
  const hash = await hashPassword(password);
  for (const person of DEMO_PEOPLE) await insertPerson({ ...person, passwordHash: hash });
  say('making the demo studio: materials');
  for (const { id, model, document: make } of DEMO_MATERIALS) {
    const document = make();
    await storeMaterial(id, model, document, id.replace(/^demo-/, ''));
    await measureInBackground(document, model);
  }
  for (const group of DEMO_GROUPS) {
    say(`making the demo studio: publishing ${group.name}`);
    await publishGroup(group);
  }
  await makeHarbourSet(say);
  say('making the demo studio: ramps, palettes, curves, variants and a starter');
  await keepDemoPresets();
}

/** A demo material as it is stored, with the picture that ships with its starter. */
async function storeMaterial(
  id: string,
  model: string,
  document: NetworkDocument,
  picture: string,
): Promise<void> {
  await insertMaterial({
    id,
    projectId: 'ferry',
    ownerId: 'maren',
    name: document.name,
    modelId: model,
    document,
    contentHash: await hashContent(document),
  });
  const bytes = await readFile(path.join(process.cwd(), 'public/starters', `${picture}.png`));
  await setSwatch(id, await storeBlob(bytes, 'image/png'));
}

/** Has the maps of a demo material measured in the background. */
async function measureInBackground(document: NetworkDocument, modelId: string): Promise<void> {
  const model = await findModel('maren', modelId);
  if (!model) throw new Error(`Invariant broken: no demo model ${modelId}`);
  await requestMaps(document, model, (await prepareModel(model)).analysis, 'maren');
}

const packaged = (
  document: NetworkDocument,
  name: string,
  ids: readonly string[],
  materialId: string,
) =>
  groupSelection(document, {
    board: null,
    ids,
    name,
    path: [],
    source: { materialId, revision: 1 },
  });

/** The network a group is packaged from; a nested one has its inner group already. */
function workshopOf(source: NetworkDocument, { inner, nodes }: DemoGroup, materialId: string) {
  if (!inner) return { document: source, ids: nodes };
  const made = packaged(source, inner.name, inner.nodes, materialId);
  const nested = made.document.network.nodes.find(({ group }) => group === made.groupId);
  return {
    document: made.document,
    ids: [...nodes.filter((id) => !inner.nodes.includes(id)), nested?.id ?? ''],
  };
}

/**
 * Packages nodes of a starter in a workshop of its own, which is archived: it is no finished work;
 * and publishes as anybody would.
 */
async function publishGroup(given: DemoGroup): Promise<void> {
  const starter = DEMO_MATERIALS.find((each) => each.id === `demo-${given.from}`);
  if (!starter) throw new Error(`Invariant broken: no starter ${given.from}`);
  const id = `${starter.id}-${given.name.toLowerCase().replace(/\s+/g, '-')}`;
  const name = `${starter.title} (workshop: ${given.name})`;
  const workshop = workshopOf({ ...starter.document(), name }, given, id);
  await storeMaterial(id, starter.model, workshop.document, given.from);
  const grouped = packaged(workshop.document, given.name, workshop.ids, id);
  const document = given.dials.reduce((current, dial) => {
    const made = addDial(current, grouped.groupId, dial.node, dial.input, dial.law, dial.name);
    if (!made) throw new Error(`Invariant broken: ${given.name} cannot expose ${dial.name}`);
    return changeDial(made.document, grouped.groupId, made.dialId, {
      help: dial.help,
      section: dial.section ?? 'Main',
    });
  }, grouped.document);
  await saveRevision({
    materialId: id,
    base: 1,
    name: document.name,
    modelId: starter.model,
    document,
    contentHash: await hashContent(document),
    authorId: 'maren',
  });
  await publish('maren', {
    materialId: id,
    revision: 2,
    groupId: grouped.groupId,
    rack: 'studio',
    name: given.name,
    description: given.description,
    tags: given.tags,
    next: null,
    notes: '',
  });
  await placeMaterial(id, { isArchived: true });
}
