import type { GroupId } from '../base/ids';
import type { NoteCure } from '../notes/group-note';
import type { NetworkDocument } from '../graph/document';
import { cureAdvice } from './advice-cures';
import { changeNode } from './board';
import { changeLaw } from './dial-laws';
import { changeDial } from './dials';
import { changePort, removePort } from './group-ports';

/** Mends what a note found in a group. */
export function cureNote(
  document: NetworkDocument,
  groupId: GroupId,
  cure: NoteCure,
): NetworkDocument {
  switch (cure.act) {
    case 'advice':
      return cureAdvice(document, groupId, cure.node, cure.advice);
    case 'remove-port':
      return removePort(document, groupId, cure.side, cure.port);
    case 'law':
      return changeLaw(document, groupId, cure.dial, cure, cure.law);
    case 'switch-on':
      return changeNode(document, groupId, cure.node, ({ off: _off, ...node }) => node);
    case 'slider':
      return changeDial(document, groupId, cure.dial, { soft: [...cure.soft] });
    case 'declare':
      return changePort(document, groupId, 'inputs', cure.port, { unwired: 'position' });
  }
}
