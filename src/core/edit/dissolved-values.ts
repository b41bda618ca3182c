import { AppError } from '../base/diagnostic';
import { own } from '../base/own';
import { describePorts, inputPort, isNeutralExact, neutralValue } from '../compile/catalogue';
import { withoutInput } from '../compile/neutral';
import { fits } from '../compile/check/kinds';
import { isPlaceOf } from './dials';
import { settingOf, withSetting } from '../compile/settings';
import { getInputValue } from '../compile/uniforms';
import { INPUT_EDGE, isFlowing, isTriple } from '../graph/document';
import type {
  Dial,
  Drive,
  GroupDefinition,
  GroupPort,
  InputValue,
  Network,
  NetworkDocument,
  NodeInstance,
  Triple,
} from '../graph/document';

const { fround } = Math;

/** A group that is dissolved: where its card stands, and what it is. */
export interface Dissolving {
  readonly document: NetworkDocument;
  readonly network: Network;
  readonly group: GroupDefinition;
  readonly card: NodeInstance;
}
interface Part {
  readonly dial: Dial;
  readonly drive: Drive;
  readonly at: InputValue;
}

const ORDER: Readonly<Record<Drive['law'], number>> = {
  'as is': 0,
  span: 0,
  blend: 0,
  power: 0,
  times: 1,
  lift: 2,
};

/** What a law makes of a number, rounded at every step as programs round. */
function lawOf({ drive, dial }: Part, at: number, value: number): number {
  const home = typeof dial.home === 'number' ? fround(dial.home) : 1;
  const [low, high] = [fround(drive.low ?? value), fround(drive.high ?? 0)];
  switch (drive.law) {
    case 'times':
      return fround(value * at);
    case 'lift':
      return fround(value + fround(fround(at - 1) * fround(drive.reach ?? 0)));
    case 'span':
      return fround(value + fround(fround(at - home) * fround(high - low)));
    case 'blend':
      return at === home && isPlaceOf(value, drive, home)
        ? value
        : fround(fround(low * fround(1 - at)) + fround(high * at));
    case 'power':
      return at === home ? value : fround(Math.max(value, 0) ** at);
    case 'as is':
      return at;
  }
}

function applied(part: Part, value: number | Triple): number | Triple {
  const { at } = part;
  if (part.drive.law === 'as is') return isTriple(at) || typeof at === 'number' ? at : value;
  if (typeof at !== 'number') return value;
  const single = fround(at);
  return typeof value === 'number'
    ? lawOf(part, single, fround(value))
    : (value.map((lane) => lawOf(part, single, fround(lane))) as unknown as Triple);
}

const isAtHome = ({ dial, at }: Pick<Part, 'dial' | 'at'>): boolean =>
  JSON.stringify(at) === JSON.stringify(dial.home);

/** Whether a dial of the card is wired outside; dissolving would lose that. */
const isWiredOutside = ({ network, card }: Dissolving, dial: Dial): boolean =>
  network.strands.some(({ to }) => to.node === card.id && to.input === dial.id);

function refuse(dial: Dial, why: string): never {
  throw new AppError(
    'group.dial-in-use',
    `The dial “${dial.name}” ${why}.`,
    'Reset it before opening the group up.',
    { kept: 'Nothing was changed.' },
  );
}

/** The dials that drive one value, in the order their laws are applied. */
const partsOf = ({ group, card }: Dissolving, node: string, input: string): readonly Part[] =>
  group.dials
    .flatMap((dial) =>
      dial.drives
        .filter((drive) => drive.node === node && drive.input === input)
        .map((drive) => ({ dial, drive, at: settingOf(card, dial) })),
    )
    .sort((a, b) => ORDER[a.drive.law] - ORDER[b.drive.law]);

/** A node with what the group's dials make of one of its values. */
function withDriven(dissolving: Dissolving, node: NodeInstance, input: string): NodeInstance {
  const parts = partsOf(dissolving, node.id, input);
  const moved = parts.find((part) => !isAtHome(part));
  if (!moved) return node;
  if (!isFlowing(moved.dial)) return withSetting(node, input, moved.at);
  const isWired = dissolving.group.network.strands.some(
    ({ to }) => to.node === node.id && to.input === input,
  );
  if (isWired) refuse(moved.dial, 'is not at home and acts on a strand');
  const view = describePorts(dissolving.document, node)?.inputs.find(({ id }) => id === input);
  const designed = getInputValue(node, input) ?? view?.dial?.home;
  if (typeof designed !== 'number' && !isTriple(designed))
    refuse(moved.dial, 'is not at home and acts on what no typed value stands for');
  const value = parts.reduce<number | Triple>((each, part) => applied(part, each), designed);
  return { ...node, values: { ...node.values, [input]: value } };
}

function refuseUnwired({ name }: GroupPort): never {
  throw new AppError(
    'group.unwired',
    `What “${name}” is unwired cannot be typed where it goes.`,
    'Wire it, or change what it is unwired, before dissolving the group.',
    { kept: 'Nothing was changed.' },
  );
}

const COORDINATES: Readonly<Record<string, string>> = {
  position: 'position',
  normal: 'normal',
  texture: 'texture coordinates',
};

/** A node whose input has what an unwired port of the group stands for. */
function withPort(
  document: NetworkDocument,
  node: NodeInstance,
  input: string,
  port: GroupPort,
): NodeInstance {
  const inner = inputPort(node, input);
  const { fallback, unwired } = port;
  if (fallback === undefined && unwired !== undefined && unwired !== 'neutral') {
    const isUsual =
      inner?.default === COORDINATES[unwired] && own(node.values, input) === undefined;
    return isUsual ? node : refuseUnwired(port);
  }
  const isNeutral = fallback === undefined && unwired === 'neutral';
  // An empty list is none, and a mask without a source lets nothing through.
  const isMask = inner?.quantity === 'mask';
  if (isNeutral && inner?.kind !== 'scalars' && !isMask) {
    const does = withoutInput(document, node, input);
    if (does === 'goes on' && !isNeutralExact(node, input)) refuseUnwired(port);
  }
  const value = fallback ?? (isNeutral ? (isMask ? 0 : neutralValue(node, input)) : undefined);
  if (value === undefined) return node;
  if (!inner || !fits(inner.kind, value)) refuseUnwired(port);
  return { ...node, values: { ...node.values, [input]: value } };
}

/** A node with what unwired inputs of the group stand for typed where they go. */
function withUnwired(
  { document, network, group, card }: Dissolving,
  node: NodeInstance,
): NodeInstance {
  return group.network.strands.reduce((changed, { from, to }) => {
    if (from.node !== INPUT_EDGE || to.node !== node.id) return changed;
    const port = group.inputs.find(({ id }) => id === from.output);
    const isWired = network.strands.some(
      (strand) => strand.to.node === card.id && strand.to.input === from.output,
    );
    return port && !isWired ? withPort(document, changed, to.input, port) : changed;
  }, node);
}

/**
 * The nodes of a group as they are outside it: with what its dials and unwired inputs make of
 * their values, equal to the bit in single precision (a *power* to a few units in the last place).
 * @throws AppError when a dial is wired, or moved and acting on a strand, or what an input is
 *   unwired cannot be typed where it goes: that would be lost
 */
export function dissolvedNodes(dissolving: Dissolving): readonly NodeInstance[] {
  const { group } = dissolving;
  const wired = group.dials.find((dial) => isWiredOutside(dissolving, dial));
  if (wired) refuse(wired, 'has a strand');
  return group.network.nodes.map((node) => {
    const inputs = new Set(
      group.dials.flatMap(({ drives }) =>
        drives.filter((drive) => drive.node === node.id).map(({ input }) => input),
      ),
    );
    const driven = [...inputs].reduce((each, input) => withDriven(dissolving, each, input), node);
    return withUnwired(dissolving, driven);
  });
}
