import { emptyDocument } from '../graph/document';
import { writePapers } from './group-papers';
import { READY_GROUPS } from './ready-groups';

/** The papers of all ready groups as one page of Markdown. */
export function readyGroupsPage(): string {
  const papers = READY_GROUPS.map(({ name, definition }) => {
    const group = { ...definition, id: 'ready' };
    const document = { ...emptyDocument(name), groups: { ready: group } };
    return writePapers(document, group).replace(/^#/gm, '##');
  });
  return [
    '# Ready groups',
    '',
    'Chains that artists build again and again. They are found by the search of the board, by what',
    'they do, and are groups like any other: to be opened, changed, published. At home each gives,',
    'bit by bit, what the nodes inside it give, and the inspector has nothing to say of it: tests',
    'hold both. This page is made from them (`npm run gen:docs`).',
    '',
    ...papers,
  ].join('\n');
}
