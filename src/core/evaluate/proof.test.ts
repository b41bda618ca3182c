import { documentOf, node } from '../../../tests/support/networks';
import { unitTile } from '../../../tests/support/meshes';
import { addDial, changeDial } from '../edit/dials';
import { groupSelection } from '../edit/group';
import { setValue } from '../edit/nodes';
import type { NetworkDocument } from '../graph/document';
import { MeshAnalysis } from '../mesh/analysis';
import { ShapeSketch } from '../mesh/shape-sketch';
import { completeMesh } from '../mesh/surface-mesh';
import { proveGroup } from './proof';

const sketch = new ShapeSketch().sphere([0, 0, 0], 1, 24).finish(3);
const uvs = new Float32Array((sketch.positions.length / 3) * 2);
const analysis = new MeshAnalysis(
  completeMesh({ ...sketch, name: 'ball', uvs, atlas: uvs, atlasIsAutomatic: true }),
);
const models = [{ name: 'Ball', analysis, maps: () => undefined }];
const source = documentOf(
  [
    node('n1', 'patterns.noise', { scale: 42 }),
    node('n2', 'ranges.threshold', { level: 0.5, width: 0.2 }),
    node('n3', 'surface.surface'),
  ],
  ['n1:value > n2:value', 'n2:mask > n3:roughness', 'n3:surface > @out:surface'],
);
const grouped = groupSelection(source, {
  board: null,
  ids: ['n1', 'n2'],
  name: 'Grain',
  path: [],
  source: { materialId: 'm1', revision: 3 },
});

describe('the proof', () => {
  it('says identical for a group at home, with dials', () => {
    const dialled =
      addDial(grouped.document, grouped.groupId, 'n1', 'scale', 'times', 'Grain')?.document ??
      grouped.document;
    expect(proveGroup(source, dialled, grouped.groupId, models)).toMatchObject({
      identical: true,
      difference: null,
      points: 4096,
      models: ['Ball'],
    });
  });

  it('says by how much, where and through which value it differs', () => {
    const changed = setValue(grouped.document, grouped.groupId, 'n2', 'level', 0.55);
    const proof = proveGroup(source, changed, grouped.groupId, models);
    expect(proof.identical).toBe(false);
    expect(proof.difference?.largest).toBeCloseTo(0.25, 2);
    expect(Math.hypot(...(proof.difference?.where ?? []))).toBeCloseTo(1, 1);
    expect(proof.changes[0]).toMatchObject({
      node: 'n2',
      what: 'level',
      before: '0.5',
      after: '0.55',
      largestWithout: 0,
    });
  });

  it('notices a dial whose home is not the designed look', () => {
    const dialled = addDial(grouped.document, grouped.groupId, 'n1', 'scale', 'times', 'Grain');
    const moved = changeDial(dialled?.document ?? source, grouped.groupId, dialled?.dialId ?? '', {
      home: 1.1,
    });
    const proof = proveGroup(source, moved, grouped.groupId, models);
    expect(proof.identical).toBe(false);
    expect(proof.changes[0]).toMatchObject({ node: 'Grain', what: 'dial home', largestWithout: 0 });
  });

  it(
    'holds for a group that measures curvature by normals of its own network, and notices ' +
      'when these change',
    () => {
      const bumpy = documentOf(
        [
          node('n', 'patterns.noise', { scale: 6 }),
          node('b', 'surface.bump', { relief: 0.02 }),
          node('c', 'model.curvature', { radius: 0.05 }),
          node('s', 'surface.surface'),
        ],
        [
          'n:value > b:height',
          'b:normal > c:detail',
          'c:signed > s:roughness',
          's:surface > @out:surface',
        ],
      );
      const packed = groupSelection(bumpy, {
        board: null,
        ids: ['n', 'b', 'c'],
        name: 'Bumps',
        path: [],
        source: { materialId: 'm1', revision: 3 },
      });
      const tile = [
        { name: 'Tile', analysis: new MeshAnalysis(unitTile()), maps: () => undefined },
      ];
      expect(proveGroup(bumpy, packed.document, packed.groupId, tile)).toMatchObject({
        identical: true,
        difference: null,
      });
      expect(
        proveGroup(
          bumpy,
          setValue(packed.document, packed.groupId, 'n', 'scale', 9),
          packed.groupId,
          tile,
        ),
      ).toMatchObject({
        identical: false,
        changes: [{ node: 'n', what: 'scale', largestWithout: 0 }],
      });
    },
  );

  it('of a group built from inside is against its own inside with the dials away', () => {
    const bare = groupSelection(source, { board: null, ids: ['n1'], name: 'Bare', path: [] });
    const { groupId } = bare;
    const prove = (document: NetworkDocument) => proveGroup(document, document, groupId, models);
    expect(prove(bare.document)).toMatchObject({ identical: true, against: 'inside' });
    const dialled = addDial(bare.document, groupId, 'n1', 'scale', 'times', 'Grain');
    if (!dialled) throw new Error('no dial');
    expect(prove(dialled.document).identical).toBe(true);
    const moved = changeDial(dialled.document, groupId, dialled.dialId, { home: 1.1 });
    const proof = prove(moved);
    expect(proof).toMatchObject({ identical: false, against: 'inside' });
    expect(proof.difference?.share).toBeGreaterThan(0.5);
    expect(() => proveGroup(source, source, 'nobody', models)).toThrow('no such group');
  });
});
