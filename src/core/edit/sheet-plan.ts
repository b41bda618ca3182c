import type { PortId } from '../base/ids';
import { describeNode } from '../compile/catalogue';
import { isChoice, isImage, isRamp, isTriple } from '../graph/document';
import type { Dial, GroupDefinition, InputValue, NodeInstance } from '../graph/document';
import { isSameValue } from './variants';
import type { DialValues } from './variants';

/** How many seeds a contact sheet shows. */
const SEEDS = 16;

/** One picture of a proof sheet: what it is called, and the dials that are not home for it. */
export interface SheetCell {
  readonly title: string;
  readonly values: DialValues;
}
/** A row of a proof sheet: a dial at its ends, sixteen seeds, or the variants. */
export interface SheetRow {
  /** The dial; none for variants. */
  readonly dial?: PortId;
  readonly title: string;
  readonly kind: 'dial' | 'seeds' | 'variants';
  readonly cells: readonly SheetCell[];
}

/** A group's card as it is described where no card is at hand. */
export const cardOf = (group: GroupDefinition): NodeInstance => ({
  id: 'card',
  type: 'group',
  version: 1,
  at: [0, 0],
  values: {},
  options: {},
  group: group.id,
});

/** The dials that choose a seed. */
export function seedDials(group: GroupDefinition): ReadonlySet<PortId> {
  return new Set(
    (describeNode(cardOf(group), group)?.inputs ?? [])
      .filter(({ dial, like }) => dial && like?.counts === 'seed')
      .map(({ id }) => id as PortId),
  );
}

const number = (value: number): string => String(Number(value.toPrecision(4)));

/** The settings of a dial that show what it does, in order, home among them. */
export function dialStates(
  dial: Dial,
): readonly { readonly title: string; readonly value: InputValue }[] {
  const { home, kind, soft, ends } = dial;
  if (kind === 'scalar' && typeof home === 'number')
    return [
      { title: ends?.low ? `${number(soft[0])}: ${ends.low}` : number(soft[0]), value: soft[0] },
      { title: `home ${number(home)}`, value: home },
      { title: ends?.high ? `${number(soft[1])}: ${ends.high}` : number(soft[1]), value: soft[1] },
    ];
  if (isChoice(home))
    return (dial.choices ?? []).map(({ value, title }) => ({
      title: value === home.choice ? `home: ${title}` : title,
      value: { choice: value },
    }));
  const atHome = { title: 'home', value: home };
  if (kind === 'colour' && isTriple(home))
    return [{ title: 'black', value: [0, 0, 0] }, atHome, { title: 'white', value: [1, 1, 1] }];
  if (kind === 'vector' && isTriple(home)) {
    const all = (x: number): readonly [number, number, number] => [x, x, x];
    return [
      { title: `all ${number(soft[0])}`, value: all(soft[0]) },
      atHome,
      { title: `all ${number(soft[1])}`, value: all(soft[1]) },
    ];
  }
  if (isRamp(home))
    return [
      {
        title: 'turned round',
        value: {
          stops: home.stops
            .map((stop) => ({ ...stop, position: 1 - stop.position }))
            .sort((a, b) => a.position - b.position),
        },
      },
      atHome,
    ];
  if (isImage(home)) return [{ title: 'no image', value: { image: '', name: '' } }, atHome];
  return [atHome];
}

/** The rows of a group's proof sheet: every dial in the order of the front, then the variants. */
export function planSheet(group: GroupDefinition): readonly SheetRow[] {
  const seeds = seedDials(group);
  const rows = group.dials.map((dial): SheetRow => {
    const title = dial.name;
    if (seeds.has(dial.id))
      return {
        dial: dial.id,
        title,
        kind: 'seeds',
        cells: Array.from({ length: SEEDS }, (_, k) => ({
          title: String(k),
          values: { [dial.id]: k },
        })),
      };
    return {
      dial: dial.id,
      title,
      kind: 'dial',
      cells: dialStates(dial).map((state) => ({
        title: state.title,
        values: isSameValue(state.value, dial.home) ? {} : { [dial.id]: state.value },
      })),
    };
  });
  const variants = (group.variants ?? []).map(({ name, values }) => ({ title: name, values }));
  return variants.length > 0
    ? [...rows, { title: 'Variants', kind: 'variants', cells: variants }]
    : rows;
}
