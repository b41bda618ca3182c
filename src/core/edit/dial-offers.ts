import { own } from '../base/own';
import { chosenOptions, describePorts, findNodeDefinition, inputPort } from '../compile/catalogue';
import type { InputView } from '../compile/catalogue';
import { getInputValue } from '../compile/uniforms';
import { isChoice, isFlowing, isTriple } from '../graph/document';
import type {
  Dial,
  DialKind,
  GroupDefinition,
  InputValue,
  Law,
  NetworkDocument,
  NodeInstance,
  Triple,
} from '../graph/document';
import type { InputPort } from '../nodes/define';
import { getNetwork } from './board';

/** What a value can be exposed as, and what each law would mean for it. */
export interface DialOffer {
  /** The kind of a dial that takes the value as it is; by every other law it is a number. */
  readonly kind: DialKind;
  /** What it is designed as; of a strand, what stands there while nothing is wired. */
  readonly designed: InputValue;
  /** Whether a strand brings the value: laws act on what arrives. */
  readonly isWired: boolean;
  readonly laws: readonly Law[];
  /** Why a law is missing or does little. */
  readonly warning: string | null;
  /** Of an option: its choices. */
  readonly choices: readonly { readonly value: string; readonly title: string }[];
}

/** The kind a dial has under a law. */
export const kindUnder = (law: Law, kind: DialKind): DialKind =>
  law === 'as is' ? kind : 'scalar';

/** A value inside a group, and all that is known of it. */
interface Exposed {
  readonly group: GroupDefinition;
  readonly node: NodeInstance;
  readonly input: string;
  readonly port: InputView | null;
  readonly isWired: boolean;
  /** The laws of the dials that drive it already. */
  readonly drivenBy: readonly Law[];
}

function find(
  document: NetworkDocument,
  groupId: string,
  nodeId: string,
  input: string,
): Exposed | null {
  const group = own(document.groups, groupId);
  const node = getNetwork(document, groupId).nodes.find((each) => each.id === nodeId);
  if (!group || !node) return null;
  const isHere = (at: { readonly node: string; readonly input: string }): boolean =>
    at.node === nodeId && at.input === input;
  return {
    group,
    node,
    input,
    port: describePorts(document, node)?.inputs.find((each) => each.id === input) ?? null,
    isWired: group.network.strands.some(({ to }) => isHere(to)),
    drivenBy: group.dials.flatMap(({ drives }) => drives.filter(isHere).map(({ law }) => law)),
  };
}

/** The port of the catalogue that a value belongs to; of a nested dial, none. */
export const portOf = ({ node, input }: Pick<Exposed, 'node' | 'input'>): InputPort | undefined =>
  inputPort(node, input);

const ADDITIVE: ReadonlySet<Law> = new Set<Law>(['times', 'lift']);

/** What is offered for an inner value or option; null when it cannot be exposed. */
export function offerDial(
  document: NetworkDocument,
  groupId: string,
  nodeId: string,
  input: string,
): DialOffer | null {
  const value = find(document, groupId, nodeId, input);
  if (!value) return null;
  if (!value.port) return offerOption(value);
  const { kind, dial } = value.port;
  if (kind === 'surface' || kind === 'scalars') return null;
  if (dial && !isFlowing(dial)) return offerSetting(value, dial);
  if (kind === 'ramp' || kind === 'curve' || kind === 'image' || kind === 'formula') {
    const designed = getInputValue(value.node, input) ?? (kind === 'image' ? NO_IMAGE : undefined);
    return designed === undefined ? null : plain(kind, designed);
  }
  // What a card of a group gets by its edge is driven nowhere; its dials are.
  if (value.node.type === 'group' && !dial) return null;
  return value.isWired ? offerStrand(value, value.port) : offerTyped(value, value.port);
}

const NO_IMAGE = { image: '', name: '' } as const;
const plain = (kind: DialKind, designed: InputValue): DialOffer => ({
  kind,
  designed,
  isWired: false,
  laws: ['as is'],
  warning: null,
  choices: [],
});

/** The dial of a group inside, passed on as it is. */
const offerSetting = ({ node }: Exposed, dial: Dial): DialOffer => ({
  ...plain(dial.kind, own(node.values, dial.id) ?? dial.home),
  choices: dial.choices ?? [],
});

function offerOption({ node, input, drivenBy }: Exposed): DialOffer | null {
  const definition = findNodeDefinition(node);
  const option = own(definition?.options, input);
  if (!definition || !option || drivenBy.length > 0) return null;
  const choice = chosenOptions(definition, node)[input] ?? option.default;
  return {
    ...plain('choice', { choice }),
    choices: option.choices.map(({ value, title }) => ({ value, title })),
  };
}

const zeros: Triple = [0, 0, 0];
const valueOf = ({ node, input }: Exposed, { dial }: InputView) =>
  own(node.values, input) ?? dial?.home ?? getInputValue(node, input);
function designedOf(exposed: Exposed, port: InputView): number | Triple {
  const value = valueOf(exposed, port);
  if (typeof value === 'number' || isTriple(value)) return value;
  return port.kind === 'vector' || port.kind === 'colour' ? zeros : 0;
}
/** Whether an input counts as something another at every point, such as the position. */
const isWord = (exposed: Exposed, port: InputView): boolean => {
  const value = valueOf(exposed, port);
  return typeof value !== 'number' && !isTriple(value);
};

/** Laws act on what a strand brings. */
function offerStrand(value: Exposed, port: InputView): DialOffer | null {
  if (value.drivenBy.some((law) => !ADDITIVE.has(law))) return null;
  const isAlone = value.drivenBy.length === 0;
  return {
    ...plain('scalar', designedOf(value, port)),
    isWired: true,
    laws: isAlone ? ['times', 'lift', 'blend', 'power'] : ['times', 'lift'],
  };
}

function offerTyped(value: Exposed, port: InputView): DialOffer | null {
  const designed = designedOf(value, port);
  const isAlone = value.drivenBy.length === 0;
  if (!isAlone && value.drivenBy.some((law) => !ADDITIVE.has(law))) return null;
  const counts = portOf(value)?.counts !== undefined;
  if (isTriple(designed) || port.kind === 'colour' || port.kind === 'vector') {
    const kind = port.kind === 'colour' ? 'colour' : 'vector';
    // What differs from point to point has no value that could stand for it at home.
    if (isWord(value, port)) return { ...plain(kind, zeros), laws: ['lift', 'times'] };
    const asIs: readonly Law[] = isAlone ? ['as is'] : [];
    return {
      ...plain(kind, isTriple(designed) ? designed : zeros),
      laws: [...asIs, 'times', 'lift'],
    };
  }
  const isShare = designed >= 0 && designed <= 1;
  const alone: readonly Law[] = isShare
    ? ['span', 'blend', 'power', 'as is']
    : ['span', 'blend', 'as is'];
  // What multiplies 0 does nothing: it is not what is proposed.
  const moving: readonly Law[] = designed === 0 ? ['lift', 'times'] : ['times', 'lift'];
  return {
    ...plain('scalar', designed),
    laws: counts && isAlone ? ['as is', 'lift'] : [...moving, ...(isAlone ? alone : [])],
    warning:
      designed === 0 && !counts
        ? 'The designed value is 0, so “times” would do nothing; “lift” moves it.'
        : null,
  };
}

/** The choices a dial offers, as its author calls them. */
export function titleOfChoice(dial: Dial, value: InputValue): string {
  if (!isChoice(value)) return '';
  return dial.choices?.find((each) => each.value === value.choice)?.title ?? value.choice;
}
