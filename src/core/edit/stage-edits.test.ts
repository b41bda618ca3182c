import { emptyDocument } from '../graph/document';
import type { NetworkDocument } from '../graph/document';
import { parseDocument } from '../graph/schema';
import { checkDocument } from '../compile/check/check';
import { listLights } from '../compile/lights';
import { listBeacons, moveBeacon } from './beacons';
import { passDialsOn } from './dials';
import { groupSelection } from './group';
import { addReadyGroup } from './ready-groups';
import {
  addLight,
  computeAngles,
  changeLight,
  changeSurroundings,
  directionAt,
  removeLight,
} from './lights';
import { addNode, setOption, setValue } from './nodes';
import { connect } from './strands';

const SCALE = { size: 4, minimum: [0, 0, 0], extent: [2, 2, 2] } as const;
function withBeacon(): { document: NetworkDocument; id: string } {
  return addNode(emptyDocument('m'), null, 'model.beacon', [0, 0]);
}

describe('beacons on the stage', () => {
  it('stand where their values say, and their values say where they were moved to', () => {
    const { document, id } = withBeacon();
    const placed = setValue(
      setValue(document, null, id, 'place', [0.25, 0, -0.5]),
      null,
      id,
      'extent',
      [0.1, 0.2, 0.3],
    );
    const [beacon] = listBeacons(placed, null, SCALE);
    expect(beacon).toMatchObject({
      place: [2, 1, -1],
      extent: [0.4, 0.8, 1.2],
      turn: [0, 0, 0],
      shape: 'sphere',
      isKnown: true,
    });
    const moved = moveBeacon(
      placed,
      null,
      id,
      { place: [1, 1, 1], turn: [0, 45, 0], extent: [4, 4, 4] },
      SCALE,
    );
    expect(moved.network.nodes[0]?.values).toMatchObject({
      place: [0, 0, 0],
      turn: [0, 45, 0],
      extent: [1, 1, 1],
    });
    expect(
      listBeacons(setOption(moved, null, id, 'measure', 'units'), null, SCALE)[0],
    ).toMatchObject({ place: [0, 0, 0], extent: [1, 1, 1] });
    expect(
      moveBeacon(moved, null, id, { place: [1, 1, 1], turn: [0, 45, 0], extent: [4, 4, 4] }, SCALE),
    ).toBe(moved);
    expect(
      moveBeacon(
        moved,
        null,
        'gone',
        { place: [1, 1, 1], turn: [0, 45, 0], extent: [4, 4, 4] },
        SCALE,
      ),
    ).toBe(moved);
  });
  it('are seen and moved from outside by the dials of their group, in groups inside it too', () => {
    const ready = addReadyGroup(emptyDocument('m'), null, 'Region mask', [0, 0]);
    const check = (document: NetworkDocument, card: string): void => {
      const beacons = listBeacons(document, null, SCALE);
      expect(beacons).toMatchObject([{ card, title: 'Region', place: [1, 2, 1] }]);
      expect([...(beacons[0]?.free ?? [])]).toEqual(['place', 'turn', 'extent']);
      const to = { place: [1, 1, 1], turn: [0, 45, 0], extent: [4, 4, 4] } as const;
      const moved = moveBeacon(document, null, beacons[0]?.id ?? '', to, SCALE);
      expect(listBeacons(moved, null, SCALE)).toMatchObject([to]);
      // The group is as it was: only the card's dials changed.
      expect(moved.groups).toBe(document.groups);
    };
    check(ready.document, ready.id);
    const around = groupSelection(ready.document, {
      board: null,
      ids: [ready.id],
      name: 'Around',
      path: [],
    });
    const card = around.document.network.nodes[0]?.id ?? '';
    expect(listBeacons(around.document, null, SCALE)).toEqual([]);
    const inner = around.document.groups[around.groupId]?.network.nodes[0]?.id ?? '';
    check(passDialsOn(around.document, around.groupId, inner), card);
  });
  it('are not moved by what is wired', () => {
    const { document, id } = withBeacon();
    const source = addNode(document, null, 'constants.vector', [0, 0]);
    const wired = connect(
      source.document,
      null,
      { node: source.id, output: 'vector' },
      { node: id, input: 'place' },
    );
    const [beacon] = listBeacons(wired, null, SCALE);
    expect([beacon?.isKnown, [...(beacon?.free ?? [])]]).toEqual([false, ['turn', 'extent']]);
    const moved = moveBeacon(
      wired,
      null,
      id,
      { place: [9, 9, 9], turn: [10, 0, 0], extent: [1.2, 1.2, 1.2] },
      SCALE,
    );
    expect(moved.network.nodes.find((node) => node.id === id)?.values).toEqual({
      turn: [10, 0, 0],
    });
  });
});

describe('surroundings', () => {
  it(
    'are written down only while they differ from those of every material, and are read ' + 'back',
    () => {
      const document = emptyDocument('s');
      const turned = changeSurroundings(changeSurroundings(document, { turn: 90 }), {
        strength: 0.5,
      });
      expect(turned.surroundings).toEqual({ turn: 90, strength: 0.5 });
      expect(parseDocument(turned)).toEqual({ document: turned, diagnostics: [] });
      expect(changeSurroundings(turned, { turn: 0, strength: 1 })).toEqual(document);
      for (const wrong of [{ turn: 181, strength: 1 }, { turn: 0, strength: -1 }, { turn: 0 }])
        expect(parseDocument({ ...document, surroundings: wrong }).document).toBeNull();
    },
  );
});

describe('lights', () => {
  it(
    'are added up to four, changed and removed; a document without any has the two it ' +
      'comes with',
    () => {
      const document = emptyDocument('m');
      expect(listLights(document).map(({ id }) => id)).toEqual(['key', 'fill']);
      const { document: three, id } = addLight(document);
      const bright = changeLight(three, id, { intensity: 5, shadows: true });
      expect(listLights(bright)[2]).toMatchObject({ intensity: 5, shadows: true, kind: 'far' });
      expect(listLights(changeLight(bright, id, { shadows: false }))[2]).not.toHaveProperty(
        'shadows',
      );
      expect(listLights(changeLight(bright, id, { name: 'Moon' }))[2]).toMatchObject({
        shadows: true,
        name: 'Moon',
      });
      const four = addLight(three).document;
      expect(addLight(four)).toEqual({ document: four, id: '' });
      expect(listLights(removeLight(four, 'key')).map((light) => light.id)).toEqual([
        'fill',
        id,
        listLights(four)[3]?.id,
      ]);
      expect(checkDocument(four).diagnostics).toEqual([]);
    },
  );
  it('have directions as angles and back', () => {
    for (const [round, up] of [
      [0, 0],
      [90, 0],
      [-120, 35],
      [40, -60],
    ] as const) {
      const angles = computeAngles(directionAt(round, up));
      expect([Math.round(angles.round), Math.round(angles.up)]).toEqual([round, up]);
    }
    expect(computeAngles([0, 1, 0])).toEqual({ round: 0, up: 90 });
    expect(computeAngles([0, 0, 0])).toEqual({ round: 0, up: 90 });
  });
});
