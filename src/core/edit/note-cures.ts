import type { GroupId } from '../base/ids';
import type { NoteCure } from '../evaluate/group-note';
import type { NetworkDocument } from '../graph/document';
import { changeNode } from './board';
import { changeDial } from './dials';
import { changePort } from './group-ports';
import { removeNodes } from './nodes';

/** Mends what a note found in a group. */
export function cureNote(
  document: NetworkDocument,
  groupId: GroupId,
  cure: NoteCure,
): NetworkDocument {
  switch (cure.act) {
    case 'remove-node':
      return removeNodes(document, groupId, [cure.node]);
    case 'switch-on':
      return changeNode(document, groupId, cure.node, ({ off: _off, ...node }) => node);
    case 'slider':
      return changeDial(document, groupId, cure.dial, { soft: [...cure.soft] });
    case 'declare':
      return changePort(document, groupId, 'inputs', cure.port, { unwired: 'position' });
  }
}
