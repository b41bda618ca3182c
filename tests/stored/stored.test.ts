import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { findNodeDefinition, findDefinition } from '@/core/compile/catalogue';
import { checkReferences } from '@/core/compile/check/check';
import { readStored, readStoredGroups, upgradeNodes } from '@/core/compile/upgrade';
import { emptyDocument } from '@/core/graph/document';
import type { NetworkDocument, NodeInstance } from '@/core/graph/document';
import { DOCUMENT_VERSION } from '@/core/graph/limits';
import { MIGRATIONS } from '@/core/graph/migrations';
import type { NodeDefinition } from '@/core/nodes/define';
import { NODES } from '@/core/nodes/registry.generated';
import { hashResults } from './evaluate';
import type { StoredFile } from './evaluate';

const sets = readdirSync(import.meta.dirname, { withFileTypes: true })
  .filter((each) => each.isDirectory())
  .map((each) => each.name);
const filesOf = (set: string): readonly StoredFile[] =>
  readdirSync(path.join(import.meta.dirname, set)).flatMap(
    (file) =>
      JSON.parse(readFileSync(path.join(import.meta.dirname, set, file), 'utf8')) as StoredFile[],
  );

/** A stored file as a document of this release; a release is opened on a board of its own. */
function open({ document, release }: StoredFile): NetworkDocument {
  if (!release) {
    const read = readStored(document);
    if (!read.document) throw new Error(JSON.stringify(read.diagnostics));
    return read.document;
  }
  const { groups, diagnostics } = readStoredGroups(release.definitions, release.documentVersion);
  if (!groups) throw new Error(JSON.stringify(diagnostics));
  const card: NodeInstance = {
    id: 'card',
    type: 'group',
    version: 1,
    at: [0, 0],
    values: {},
    options: {},
    group: release.root,
  };
  const empty = emptyDocument('Released');
  return { ...empty, groups, network: { ...empty.network, nodes: [card] } };
}

describe.each(sets)('what was stored before: %s', (set) => {
  it.each(filesOf(set).map((file) => [file.name, file] as const))(
    'opens with the same values at 4,096 points: %s',
    (_, file) => {
      const document = open(file);
      expect(checkReferences(document).filter(({ severity }) => severity === 'error')).toEqual([]);
      expect(hashResults(document)).toEqual(file.values);
    },
  );
});

describe('versions', () => {
  it('of the document have a migration each, in order, and of a node a way from each', () => {
    expect(MIGRATIONS.map(({ from }) => from)).toEqual(
      Array.from({ length: DOCUMENT_VERSION }, (_, k) => k),
    );
    for (const { id, version, former = {} } of NODES)
      expect({ id, versions: Object.keys(former).map(Number) }).toEqual({
        id,
        versions: Array.from({ length: version - 1 }, (_, k) => k + 1),
      });
  });

  it('that are newer are refused with what to do, and nothing of them is changed', () => {
    const newer = { ...emptyDocument('Later'), version: DOCUMENT_VERSION + 1, more: [1] };
    const { document, diagnostics } = readStored(newer);
    expect(document).toBeNull();
    expect(diagnostics[0]).toMatchObject({ code: 'document.version', pointer: '/version' });
    expect(diagnostics[0]?.message).toContain('open it with the newer release');
  });

  it('that are no versions, and damaged old documents, are findings and no crash', () => {
    for (const version of [-1, 0.5, NaN, '0', null, undefined])
      expect(readStored({ ...emptyDocument('Odd'), version }).document).toBeNull();
    for (const network of [null, 7, { strands: [null, { from: 3 }] }, { strands: 'x' }])
      expect(readStored({ ...emptyDocument('Cut'), version: 0, network }).document).toBeNull();
    expect(readStoredGroups({ g1: null }, 0).groups).toBeNull();
  });

  it('of a node whose meaning was kept are computed by that meaning', () => {
    const now = findDefinition('patterns.noise') as NodeDefinition;
    const kept: NodeDefinition = { ...now, version: 1 };
    const next: NodeDefinition = { ...now, version: 2, former: { 1: { kept } } };
    const node: NodeInstance = {
      id: 'n',
      type: now.id,
      version: 1,
      at: [0, 0],
      values: {},
      options: {},
    };
    const empty = emptyDocument('Kept');
    const document = { ...empty, network: { ...empty.network, nodes: [node] } };
    expect(upgradeNodes(document, () => next)).toBe(document);
    expect(findNodeDefinition({ type: 'patterns.stripes', version: 1 })).toBeUndefined();
    expect(findNodeDefinition({ type: 'patterns.stripes', version: 2 })?.version).toBe(2);
  });
});
