import { own } from '../base/own';
import { describePorts, inputPort } from '../compile/catalogue';
import { getInputValue } from '../compile/uniforms';
import { isTriple } from '../graph/document';
import { NOT_DRIVEN } from '../nodes/define';
import type { Dial, DialKind, Drive, Law, NetworkDocument, Triple } from '../graph/document';
import { freshId, getNetwork, withGroup } from './board';

/** What a value can be exposed as, and what each law would mean for it. */
export interface DialOffer {
  readonly kind: DialKind;
  readonly designed: number | Triple;
  readonly laws: readonly Law[];
  readonly warning: string | null;
}

/** What is offered for an inner value; null when it cannot be exposed. */
export function offerDial(
  document: NetworkDocument,
  groupId: string,
  nodeId: string,
  input: string,
): DialOffer | null {
  const node = getNetwork(document, groupId).nodes.find((each) => each.id === nodeId);
  const port = node && describePorts(document, node)?.inputs.find((each) => each.id === input);
  if (!node || !port || NOT_DRIVEN.has(port.kind)) return null;
  const designed = own(node.values, input) ?? port.dial?.home ?? getInputValue(node, input) ?? 0;
  if (isTriple(designed) || port.kind === 'colour' || port.kind === 'vector') {
    return {
      kind: port.kind === 'colour' ? 'colour' : 'vector',
      designed: isTriple(designed) ? designed : [0, 0, 0],
      laws: ['as is'],
      warning: null,
    };
  }
  if (typeof designed !== 'number') return null;
  const zero = designed === 0;
  return {
    kind: 'scalar',
    designed,
    laws: ['times', 'lift', 'as is'],
    warning: zero ? 'The designed value is 0, so “times” would do nothing; “lift” moves it.' : null,
  };
}

/** The reach of a lift: about as far as the value itself, or as its slider. */
function reachFor(
  document: NetworkDocument,
  groupId: string,
  nodeId: string,
  input: string,
  designed: number,
): number {
  const node = getNetwork(document, groupId).nodes.find((each) => each.id === nodeId);
  const port = node && inputPort(node, input);
  if (designed !== 0) return Math.abs(designed);
  return port ? (port.soft[1] - port.soft[0]) / 2 : 0.5;
}

/** A drive to an inner value by a law, with the ends that suit the value; null where none fits. */
export function makeDrive(
  document: NetworkDocument,
  groupId: string,
  node: string,
  input: string,
  law: Law,
): Drive {
  if (law !== 'lift') return { node, input, law };
  const offer = offerDial(document, groupId, node, input);
  const designed = typeof offer?.designed === 'number' ? offer.designed : 0;
  return { node, input, law, reach: reachFor(document, groupId, node, input, designed) };
}

/** Exposes an inner value as a new dial whose home is exactly the look as designed. */
export function addDial(
  document: NetworkDocument,
  groupId: string,
  node: string,
  input: string,
  law: Law,
  name: string,
): { document: NetworkDocument; dialId: string } | null {
  const offer = offerDial(document, groupId, node, input);
  const group = own(document.groups, groupId);
  if (!offer || !group || !offer.laws.includes(law)) return null;
  const instance = group.network.nodes.find((each) => each.id === node);
  const port = instance && inputPort(instance, input);
  const relative = law === 'times' || law === 'lift';
  const plain: Pick<Dial, 'home' | 'soft' | 'hard' | 'step' | 'unit'> = relative
    ? { home: 1, soft: [0, 2], hard: [-100, 100], step: 0.01, unit: '' }
    : {
        home: offer.designed,
        soft: port?.soft ?? [0, 1],
        hard: port?.hard ?? [-1e6, 1e6],
        step: port?.step ?? 0.01,
        unit: port?.unit ?? '',
      };
  const taken = new Set([
    ...group.dials.map((dial) => dial.id),
    ...group.inputs.map((each) => each.id),
  ]);
  const dialId = freshId('d', taken);
  const dial: Dial = {
    id: dialId,
    name,
    help: port?.help ?? '',
    section: 'Main',
    kind: offer.kind,
    ...plain,
    drives: [makeDrive(document, groupId, node, input, law)],
  };
  return {
    document: withGroup(document, groupId, (each) => ({ ...each, dials: [...each.dials, dial] })),
    dialId,
  };
}

/** The document with a dial's name, help, section, ranges or home changed. */
export function changeDial(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
  change: Partial<Omit<Dial, 'id' | 'kind'>>,
): NetworkDocument {
  return withGroup(document, groupId, (group) => ({
    ...group,
    dials: group.dials.map((dial) => (dial.id === dialId ? { ...dial, ...change } : dial)),
  }));
}

/** Lets a dial drive one more value; unchanged where the dial cannot. */
export function addDrive(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
  node: string,
  input: string,
  /** That of its first drive where left out. */
  given?: Law,
): NetworkDocument {
  const dial = own(document.groups, groupId)?.dials.find((each) => each.id === dialId);
  const offer = offerDial(document, groupId, node, input);
  if (
    !dial ||
    offer?.kind !== dial.kind ||
    dial.drives.some((drive) => drive.node === node && drive.input === input)
  )
    return document;
  const law = given ?? dial.drives[0]?.law ?? 'times';
  return changeDial(document, groupId, dialId, {
    drives: [...dial.drives, makeDrive(document, groupId, node, input, law)],
  });
}

/** Removes a dial; inner values keep what they had, strands to the dial go. */
export function removeDial(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
): NetworkDocument {
  return withGroup(document, groupId, (group) => ({
    ...group,
    dials: group.dials.filter((dial) => dial.id !== dialId),
    network: {
      ...group.network,
      strands: group.network.strands.filter(
        (strand) => strand.from.output !== dialId || strand.from.node !== '@in',
      ),
    },
  }));
}

/** Moves a dial by so many places in the order of the front. */
export function moveDial(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
  by: -1 | 1,
): NetworkDocument {
  return withGroup(document, groupId, (group) => {
    const at = group.dials.findIndex((dial) => dial.id === dialId);
    const to = at + by;
    const dials = [...group.dials];
    const [dial] = dials.splice(at, 1);
    if (!dial || to < 0 || to > dials.length) return group;
    dials.splice(to, 0, dial);
    return { ...group, dials };
  });
}

/** The value a drive gives at a dial's setting, as the board's tags show it. */
export function drivenValue(designed: number, drive: Drive, dial: number, home: number): number {
  switch (drive.law) {
    case 'times':
      return designed * dial;
    case 'lift':
      return designed + (dial - 1) * (drive.reach ?? 0);
    case 'span':
      return designed + (dial - home) * ((drive.high ?? 0) - (drive.low ?? 0));
    case 'blend':
      return (drive.low ?? 0) * (1 - dial) + (drive.high ?? 0) * dial;
    case 'as is':
      return dial;
  }
}
