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
import { insertMaterial, saveRevision } from '@/db/queries/materials';
import { insertModel } from '@/db/queries/models';
import { publish } from '../publish';
import { drawSwatch } from '../swatches';
import { DEMO_MATERIALS } from './materials';
import { DEMO_PEOPLE, DEMO_PROJECTS } from './people';

/** Fills an empty database with the demo scenario; leaves one that has people in it alone. */
export async function seedDemo(password: string, say: (text: string) => void): Promise<void> {
  if (await isSeeded()) return;
  say('making the demo studio: people and projects');
  for (const project of DEMO_PROJECTS) await insertProject(project);
  const hash = await hashPassword(password);
  for (const person of DEMO_PEOPLE) await insertPerson({ ...person, passwordHash: hash });
  say('making the demo studio: models');
  for (const { name, title } of DEMO_MODELS) {
    const bytes = await readFile(path.join(process.cwd(), 'assets/models', `${name}.glb`));
    await insertModel({
      id: `demo-${name}`,
      name: title,
      projectId: null,
      blobHash: await storeBlob(bytes, 'model/gltf-binary'),
      ownerId: null,
    });
  }
  for (const material of DEMO_MATERIALS) {
    const document = material.document();
    say(`making the demo studio: ${document.name}`);
    await insertMaterial({
      id: material.id,
      projectId: 'ferry',
      ownerId: 'maren',
      name: document.name,
      modelId: material.model,
      document,
      contentHash: await hashContent(document),
    });
    await drawSwatch(material.id, 'maren');
  }
  for (const group of DEMO_GROUPS) {
    say(`making the demo studio: publishing ${group.name}`);
    await publishGroup(group);
  }
}

interface DemoGroup {
  readonly name: string;
  readonly description: string;
  readonly tags: readonly string[];
  readonly material: string;
  readonly nodes: readonly string[];
  readonly dials: readonly {
    readonly node: string;
    readonly input: string;
    readonly law: 'times' | 'lift' | 'as is';
    readonly name: string;
    readonly help: string;
    readonly section?: string;
  }[];
}

const DEMO_GROUPS: readonly DemoGroup[] = [
  {
    name: 'Damp places',
    description: 'Hollows and patches where damp settles, as one soft mask.',
    tags: ['mask', 'dirt', 'damp'],
    material: 'demo-bell-bronze',
    nodes: ['hollows', 'patches', 'both', 'green'],
    dials: [
      {
        node: 'patches',
        input: 'scale',
        law: 'times',
        name: 'Patch size',
        help: 'Lower: large patches. Higher: fine speckle.',
      },
      {
        node: 'green',
        input: 'edge',
        law: 'lift',
        name: 'Spread',
        help: 'Lower: damp everywhere. Higher: only the deepest hollows.',
      },
      {
        node: 'green',
        input: 'width',
        law: 'times',
        name: 'Softness',
        help: 'Lower: hard borders. Higher: soft ones.',
      },
    ],
  },
  {
    name: 'Crackle',
    description: 'A net of fine cracks, 0 in the crack and 1 between.',
    tags: ['mask', 'crackle', 'glaze'],
    material: 'demo-stoneware',
    nodes: ['cells', 'cracks'],
    dials: [
      {
        node: 'cells',
        input: 'scale',
        law: 'times',
        name: 'Fineness',
        help: 'Lower: few large fields. Higher: many small ones.',
      },
      {
        node: 'cracks',
        input: 'edge',
        law: 'times',
        name: 'Crack width',
        help: 'Lower: hairlines. Higher: gaping.',
      },
    ],
  },
];

/** Packages nodes of a demo material in a copy of it, and publishes as anybody would. */
async function publishGroup(given: DemoGroup): Promise<void> {
  const material = DEMO_MATERIALS.find((each) => each.id === given.material);
  if (!material) throw new Error(`Invariant broken: no demo material ${given.material}`);
  const source = material.document();
  const id = `${given.material}-${given.name.toLowerCase().replace(/\s+/g, '-')}`;
  const workshop: NetworkDocument = { ...source, name: `${source.name} (workshop: ${given.name})` };
  await insertMaterial({
    id,
    projectId: 'ferry',
    ownerId: 'maren',
    name: workshop.name,
    modelId: material.model,
    document: workshop,
    contentHash: await hashContent(workshop),
  });
  const grouped = groupSelection(workshop, {
    board: null,
    ids: given.nodes,
    name: given.name,
    path: [],
    source: { materialId: id, revision: 1 },
  });
  const document = given.dials.reduce((current, dial) => {
    const made = addDial(current, grouped.groupId, dial.node, dial.input, dial.law, dial.name);
    return made
      ? changeDial(made.document, grouped.groupId, made.dialId, {
          help: dial.help,
          section: dial.section ?? 'Main',
        })
      : current;
  }, grouped.document);
  await saveRevision({
    materialId: id,
    base: 1,
    name: document.name,
    modelId: material.model,
    document,
    contentHash: await hashContent(document),
    authorId: 'maren',
  });
  await drawSwatch(id, 'maren');
  await publish('maren', {
    materialId: id,
    revision: 2,
    groupId: grouped.groupId,
    rack: 'studio',
    version: '1.0.0',
    name: given.name,
    description: given.description,
    tags: given.tags,
  });
}
