'use client';
import { DropdownMenu } from 'radix-ui';
import { maskInput } from '@/core/edit/complement';
import { exchangeOrder } from '@/core/edit/order';
import { swappableInputs } from '@/core/edit/exchange';
import { resetNode } from '@/core/edit/reset';
import { passDialsOn } from '@/core/edit/dials';
import { listUses, makeOwn } from '@/core/edit/group-uses';
import { ungroup } from '@/core/edit/ungroup';
import type { BoardId, NetworkDocument, NodeInstance } from '@/core/graph/document';
import { tellProblem } from '@/ui/tell-problem';
import { beginAmount } from '@/state/amounts';
import { commit, currentBoard } from '@/state/editing';
import { packGroup } from '@/state/group-files';
import { askExchange, linkCopy, swap, toggleOff, unlinkCopy } from '@/state/rewiring';
import { stores } from '@/state/stores';
import { tellChange } from '@/state/tell-change';
import { Button } from '@/ui/Button';
import { focusBoard } from '@/ui/focus-board';
import { Menu } from '@/ui/Menu';
import type { MenuItem } from '@/ui/Menu';
import { saveFile } from '@/ui/save-file';

/** Puts every value and mode of a node back to what it came with. */
function putHome(id: string): void {
  const before = stores.document.getState().document;
  commit('Put a node home', (current, at) => resetNode(current, at, id));
  const isChanged = stores.document.getState().document !== before;
  if (isChanged) tellChange('All values of the node are home');
}

/** Which inputs may change places, and the same with the mask turned over. */
function swapsOf(node: NodeInstance): readonly MenuItem[] {
  const { document } = stores.document.getState();
  const mask = maskInput(document, node);
  return swappableInputs(document, node).flatMap(([a, b]) => {
    const pair = [a.id, b.id] as const;
    const title = `Swap ${a.title} and ${b.title}`;
    const plain: MenuItem = {
      title,
      act: () => {
        swap(node.id, pair, false);
      },
    };
    return mask === undefined || mask === a.id || mask === b.id
      ? [plain]
      : [
          plain,
          {
            title: `${title}, mask complemented`,
            act: () => {
              swap(node.id, pair, true);
            },
          },
        ];
  });
}

/** What concerns the group that a card stands for. */
function groupItems({ id, group }: NodeInstance): readonly MenuItem[] {
  if (group === undefined) return [];
  const { document } = stores.document.getState();
  const uses = listUses(document, group).length;
  const board = currentBoard();
  const act = (label: string, edit: (current: NetworkDocument, at: BoardId) => NetworkDocument) => {
    try {
      commit(label, edit);
    } catch (error) {
      tellProblem(error);
    }
  };
  return [
    ...(uses > 1
      ? [
          {
            title: 'Make this one its own',
            help: `${String(uses)} cards share it; the others stay as they are`,
            act: () => {
              act('Gave a card its own group', (current, at) => makeOwn(current, at, id));
            },
          },
        ]
      : []),
    ...(board === null
      ? []
      : [
          {
            title: 'Pass its dials on',
            help: 'All become dials of the group around it',
            act: () => {
              act('Passed dials on', (current) => passDialsOn(current, board, id));
            },
          },
        ]),
    {
      title: 'Save as a file',
      help: 'A zip with the groups and images it needs',
      act: () => {
        packGroup(group).then(({ name, file }) => {
          saveFile(file, `${name}.zip`);
        }, tellProblem);
      },
    },
    {
      title: 'Dissolve the group',
      help: 'Its nodes come onto this board; the look stays',
      act: () => {
        act('Dissolved a group', (current, at) => ungroup(current, at, id));
      },
    },
  ];
}

/** What can be asked of a node: what it is for, and how it looks behind the one it feeds. */
export type NodeQuestion = 'help' | 'order';
type Ask = (asked: NodeQuestion) => void;

/** What is told of a node, and what is seen of it in another order. */
function askingItems(node: NodeInstance, onAsk: Ask): readonly MenuItem[] {
  const { document } = stores.document.getState();
  const canTurn = exchangeOrder(document, currentBoard(), node.id) !== null;
  const item = (title: string, help: string, asked: NodeQuestion): MenuItem => ({
    title,
    help,
    act: () => {
      onAsk(asked);
    },
  });
  return [
    ...(node.group === undefined
      ? [item('About this node', 'What it does, a typical use, and what is like it', 'help')]
      : []),
    ...(canTurn
      ? [item('Both orders in pictures', 'Before and behind the node it feeds', 'order')]
      : []),
  ];
}

/** What is seen of a node, and how much of it. */
const lookingItems = (id: string): readonly MenuItem[] => [
  {
    title: 'Figures and plots',
    help: 'Every output and channel; what comes out for what arrives',
    act: () => {
      stores.view.setState({ figures: true });
    },
  },
  {
    title: 'Overall amount',
    help: 'Pull back or push what it does, its values untouched',
    act: () => {
      beginAmount(id);
    },
  },
];

function itemsFor(node: NodeInstance, onAsk: Ask): readonly (readonly MenuItem[])[] {
  const { id } = node;
  return [
    [
      {
        title: 'Exchange for another node …',
        help: 'Strands and values that fit stay',
        act: () => {
          askExchange(id);
        },
      },
      ...lookingItems(id),
      {
        title: node.off ? 'Switch on' : 'Switch off',
        help: 'Ctrl+. ; off, it passes on what comes in; a source counts as not there',
        act: () => {
          toggleOff([id]);
        },
      },
    ],
    askingItems(node, onAsk),
    swapsOf(node),
    [
      {
        title: 'Add a linked copy',
        help: 'A second card, edited together with this one',
        act: () => {
          linkCopy(id);
        },
      },
      ...(node.twin === undefined
        ? []
        : [
            {
              title: 'Edit this one alone',
              act: () => {
                unlinkCopy(id);
              },
            },
          ]),
    ],
    groupItems(node),
    [
      {
        title: 'All home',
        help: 'Every value and mode as it came; strands stay',
        act: () => {
          putHome(id);
        },
      },
    ],
  ];
}

/** What there is to do with the chosen node as a whole. */
export function NodeMenu({ node, onAsk }: { readonly node: NodeInstance; readonly onAsk: Ask }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button className="min-h-[24px] !py-0 text-[11.5px]">Node …</Button>
      </DropdownMenu.Trigger>
      <Menu sections={() => itemsFor(node, onAsk)} onClosed={focusBoard} />
    </DropdownMenu.Root>
  );
}
