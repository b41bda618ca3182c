import type { NodeId } from '../base/ids';
import { describePorts } from '../compile/catalogue';
import type { BoardId, NetworkDocument } from '../graph/document';
import type { Cure } from '../nodes/advice';
import { changeNode, getNetwork } from './board';
import { lightLamp } from './lights';
import { addNode, removeNodes, setOption, setValue } from './nodes';
import { resetInputs } from './reset';
import { connect } from './strands';

/** Where the source that a cure makes is laid, left of the node. */
const LEFT = 200;

/** Does what an advice on a node offers; a node that is gone is left alone. */
export function cureAdvice(
  document: NetworkDocument,
  board: BoardId,
  id: NodeId,
  cure: Cure,
): NetworkDocument {
  const node = getNetwork(document, board).nodes.find((each) => each.id === id);
  if (!node) return document;
  if ('limit' in cure)
    return changeNode(document, board, id, (each) => ({ ...each, limited: true }));
  if ('remove' in cure) return removeNodes(document, board, [id]);
  if ('clear' in cure) return resetInputs(document, board, id, [cure.clear]);
  if ('lamp' in cure) return lightLamp(document);
  if ('option' in cure) return setOption(document, board, id, cure.option, cure.choice);
  if ('input' in cure) return setValue(document, board, id, cure.input, cure.value);
  const [x, y] = node.at;
  const added = addNode(document, board, cure.source, [x - LEFT, y]);
  const made = getNetwork(added.document, board).nodes.find((each) => each.id === added.id);
  const [output] = (made && describePorts(added.document, made)?.outputs) ?? [];
  const from = { node: added.id, output: output?.id ?? '' };
  return connect(added.document, board, from, { node: id, input: cure.into });
}
