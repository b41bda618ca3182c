/**
 * Freezes documents and releases as this release of the program stores them, with the hashes of
 * their results, into tests/stored/. What is frozen is never written again: run it once for each
 * new version of the document or of a node, under a name of its own.
 *
 *   npx tsx scripts/freeze-stored.ts NAME
 */
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { listDefinitions } from '@/core/compile/catalogue';
import { makeExample } from '@/core/compile/example';
import { neededGroups } from '@/core/edit/board';
import { READY_GROUPS, addReadyGroup } from '@/core/edit/ready-groups';
import { DOCUMENT_VERSION, OUTPUT_EDGE, emptyDocument } from '@/core/graph/document';
import type { NetworkDocument } from '@/core/graph/document';
import { DEMO_MATERIALS } from '@/server/demo/materials';
import { hashResults } from '../tests/stored/evaluate';
import type { StoredFile } from '../tests/stored/evaluate';

const stored = (name: string, document: NetworkDocument): StoredFile => ({
  name,
  document,
  values: hashResults(document),
});

/** A document with one card of a group, its outputs at the keys of the card. */
function released(name: string, document: NetworkDocument, root: string): StoredFile {
  const group = document.groups[root];
  if (!group) throw new Error(`no group ${root}`);
  const definitions = { ...neededGroups(document, group.network), [root]: group };
  const card = {
    id: 'card',
    type: 'group',
    version: 1,
    at: [0, 0] as const,
    values: {},
    options: {},
  };
  const alone: NetworkDocument = {
    ...emptyDocument(name),
    network: { ...document.network, nodes: [{ ...card, group: root }], strands: [] },
    groups: definitions,
  };
  return {
    name,
    release: { documentVersion: DOCUMENT_VERSION, root, definitions },
    values: hashResults(alone),
  };
}

const [, , folderName = ''] = process.argv;
const folder = path.resolve(import.meta.dirname, '../tests/stored', folderName);
if (!/^[a-z0-9-]+$/.test(folderName) || existsSync(folder))
  throw new Error(
    `“${folderName}” is no name for a new set: letters, digits and dashes, not taken.`,
  );
mkdirSync(folder);
const write = (file: string, content: readonly StoredFile[]): void => {
  writeFileSync(path.join(folder, `${file}.json`), `${JSON.stringify(content, null, 1)}\n`);
};
const demos = DEMO_MATERIALS.map((material) => {
  const document = material.document();
  return { name: document.name, document };
});
write(
  'materials',
  demos.map(({ name, document }) => stored(name, document)),
);
write(
  'nodes',
  listDefinitions().map((each) => stored(each.id, makeExample(each).document)),
);
const ready = READY_GROUPS.map((each) => {
  const { document, id } = addReadyGroup(emptyDocument(each.name), null, each.name, [0, 0]);
  const node = document.network.nodes.find((one) => one.id === id);
  return { name: each.name, document, root: node?.group ?? '' };
});
write('releases', [
  ...ready.map(({ name, document, root }) => released(name, document, root)),
  ...demos.flatMap(({ name, document }) =>
    Object.keys(document.groups).map((id) => released(`${name}: ${id}`, document, id)),
  ),
]);
process.stdout.write(`${folder}: frozen (outputs end at ${OUTPUT_EDGE})\n`);
