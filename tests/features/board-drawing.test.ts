import { describe, expect, it } from '@jest/globals';
import type { Picture } from '@/core/evaluate/picture';
import type { NodeInstance } from '@/core/graph/document';
import { describeNode } from '@/core/compile/catalogue';
import type { BoardNode } from '@/features/board/board-elements';
import {
  CARD_WIDTH,
  cardHandles,
  cardHeight,
  cardLines,
  portTop,
} from '@/features/board/card-geometry';
import { cardPorts } from '@/features/board/card-ports';
import { drawOverview } from '@/features/board/overview-drawing';
import type { OverviewContext, OverviewDrawing } from '@/features/board/overview-drawing';
import { SteadyElements } from '@/features/board/steady';
import { cardsInView } from '@/features/board/use-in-view';
import { detailAt, pictureSide } from '@/state/card-detail';
import { NODES } from '@/core/nodes/registry.generated';
import { node } from '../support/networks';

describe('levels of detail', () => {
  it('change with the zoom, and not to and fro at a border', () => {
    expect([1, 0.7, 0.3].map((zoom) => detailAt(zoom, 'near'))).toEqual(['near', 'far', 'distant']);
    expect([detailAt(0.78, 'near'), detailAt(0.78, 'far')]).toEqual(['near', 'far']);
    expect([detailAt(0.41, 'far'), detailAt(0.41, 'distant')]).toEqual(['far', 'distant']);
    // A card of 56 pixels still has its name.
    expect(detailAt(56 / CARD_WIDTH, 'distant')).toBe('far');
  });
  it('ask for pictures as large as they are shown', () => {
    expect([10, 52, 124, 900].map(pictureSide)).toEqual([32, 64, 128, 192]);
  });
});

describe('the places on a card', () => {
  const noise: NodeInstance = { ...node('n', 'patterns.noise', { scale: 4, seed: 2 }) };
  const described = describeNode(noise, null);
  it('grow with what it says, and shrink when it is folded', () => {
    const lines = cardLines(noise, described);
    expect(lines.typed.map(({ id }) => id)).toEqual(['scale', 'seed']);
    const ports = cardPorts({ arriving: [], leaving: [] }, noise, described);
    const full = cardHeight(noise, lines, 0, ports);
    expect(cardHeight(noise, lines, 2, ports) - full).toBe(36);
    expect(cardHeight({ ...noise, folded: true }, lines, 2, ports)).toBeLessThan(full);
  });
  it('put a handle on its edge for every port', () => {
    const ports = cardPorts({ arriving: [], leaving: [] }, noise, described);
    const handles = cardHandles(ports);
    expect(handles).toHaveLength(ports.inputs.length + ports.aside.length + ports.outputs.length);
    const middle = ({ x, width = 0 }: { x: number; width?: number }): number => x + width / 2;
    for (const handle of handles)
      expect(middle(handle)).toBe(
        handle.type === 'source'
          ? CARD_WIDTH - 1
          : ports.aside.some(({ id }) => id === handle.id)
            ? -15
            : 1,
      );
    expect([portTop(1, 0), portTop(3, 0), portTop(3, 2)]).toEqual([62, 12, 118]);
  });
  it.each(NODES.map((definition) => [definition.id, definition] as const))(
    'keep the ports of %s 16 pixels apart and on the card, folded or not',
    (id) => {
      for (const isFolded of [false, true]) {
        const each: NodeInstance = { ...node('n', id), ...(isFolded ? { folded: true } : {}) };
        const view = describeNode(each, null);
        const ports = cardPorts({ arriving: [], leaving: [] }, each, view);
        const height = cardHeight(each, cardLines(each, view), 0, ports);
        const handles = cardHandles(ports, isFolded);
        for (const [side, isAside] of [
          ['source', false],
          ['target', false],
          ['target', true],
        ] as const) {
          const tops = handles
            .filter(({ type, x }) => type === side && x < -15 === isAside)
            .map(({ y, height: high = 0 }) => y + high / 2);
          for (let k = 1; k < tops.length; k++)
            expect((tops[k] ?? 0) - (tops[k - 1] ?? 0)).toBeGreaterThanOrEqual(16);
          if (!isAside) expect(Math.max(0, ...tops)).toBeLessThan(height);
        }
      }
    },
  );
});

describe('cards in view', () => {
  const at = (id: string, x: number, y: number): BoardNode =>
    ({ id, type: 'card', position: { x, y }, measured: { width: 132, height: 180 } }) as BoardNode;
  it('are those that touch the board, those nearest its middle first', () => {
    const cards = [at('far', 5000, 0), at('corner', 0, 0), at('middle', 340, 160)];
    const size = { width: 800, height: 500 };
    expect(cardsInView(cards, { x: 0, y: 0, zoom: 1 }, size)).toEqual(['middle', 'corner']);
    expect(cardsInView(cards, { x: 0, y: 0, zoom: 0.1 }, size)).toHaveLength(3);
    expect(cardsInView(cards, { x: -140, y: 0, zoom: 1 }, size)).toEqual(['middle']);
  });
});

describe('the picture of a whole board', () => {
  function draw(drawing: OverviewDrawing, zoom = 0.2) {
    const calls: [string, ...unknown[]][] = [];
    const note =
      (name: string) =>
      (...given: unknown[]): void => {
        calls.push([name, ...given]);
      };
    const context = {
      ...Object.fromEntries(
        ['beginPath', 'moveTo', 'bezierCurveTo', 'stroke', 'fillRect', 'clearRect'].map((name) => [
          name,
          note(name),
        ]),
      ),
      strokeRect: note('strokeRect'),
      drawImage: note('drawImage'),
    } as unknown as OverviewContext;
    drawOverview(context, drawing, {
      viewport: { x: 10, y: 20, zoom },
      width: 400,
      height: 300,
      colour: (name) => name,
      bitmap: () => ({}) as ImageBitmap,
    });
    const named = (name: string): unknown[][] =>
      calls.filter(([each]) => each === name).map(([, ...given]) => given);
    return named;
  }
  const picture = { width: 1, height: 1, pixels: new Uint8ClampedArray(4) } as Picture;
  const card = { at: [100, 50] as const, height: 180, picture, isFaulty: false };

  it('has every card that is seen, with its picture, and a frame around what is wrong', () => {
    const cards = [card, { ...card, isFaulty: true }, { ...card, at: [9000, 0] as const }];
    const named = draw({ cards, strands: [] });
    expect(named('fillRect')[0]?.slice(0, 2)).toEqual([30, 30]);
    expect(
      [named('fillRect'), named('drawImage'), named('strokeRect')].map((all) => all.length),
    ).toEqual([2, 2, 1]);
  });
  it('has strands from port to port, or to a selvedge at the edge of the board', () => {
    const strands = [
      { from: [0, 0] as const, to: [500, 100] as const, tone: 'plain' as const },
      {
        from: [0, 0] as const,
        to: { selvedge: 'out' as const, port: 1 },
        tone: 'chosen' as const,
      },
      { from: [9000, 0] as const, to: [9900, 0] as const, tone: 'plain' as const },
    ];
    const named = draw({ cards: [], strands });
    expect(named('moveTo')).toEqual([
      [10, 20],
      [10, 20],
    ]);
    const [plain, chosen] = named('bezierCurveTo');
    expect(plain?.slice(4)).toEqual([110, 40]);
    expect(chosen?.[4]).toBe(400 - 92);
  });
});

describe('steady elements', () => {
  it('stay the same objects where what is made anew says the same', () => {
    const steady = new SteadyElements<{ readonly says: number }>();
    const alike = (a: { says: number }, b: { says: number }): boolean => a.says === b.says;
    const round = (key: object, says: number) =>
      steady.round((element) => {
        element('a', [key], () => ({ says }), alike);
      });
    const first = round({}, 1);
    expect(round({}, 1)).toBe(first);
    expect(round({}, 2)).not.toBe(first);
  });
});
