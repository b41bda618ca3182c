'use client';
import { ExposeButton } from './ExposeButton';
import { useExpose } from './use-expose';
import { own } from '@/core/base/own';
import { LayoutGrid } from 'lucide-react';
import { memo } from 'react';
import { findNodeDefinition, findGroupDefinition } from '@/core/compile/catalogue';
import { changeNode } from '@/core/edit/board';
import type { NodeInstance } from '@/core/graph/document';
import type { OptionDefinition } from '@/core/nodes/define';
import { pointAtPart } from '@/state/driven';
import { pickingPart } from '@/state/picks';
import { useFindings } from '@/state/use-findings';
import { Button } from '@/ui/Button';
import { changeOption } from './change-option';
import { NodeMenu } from './NodeMenu';
import type { NodeQuestion } from './NodeMenu';
import { OptionChoice } from './OptionChoice';
import { PickButton } from './PickButton';
import { StartMenu } from './StartMenu';
import { commit, enterGroup } from '@/state/editing';
import { toggleOff } from '@/state/rewiring';
import { useDocument } from '@/state/use-stores';

interface Props {
  readonly node: NodeInstance;
  readonly onCompare: (option: string) => void;
  /** Makes an option a dial of the open group. */
  readonly onExpose: ((node: string, input: string) => void) | null;
  readonly onAsk: (asked: NodeQuestion) => void;
}

/** Whether a node is the same but for its values: then its head is. */
const isAlike = (
  { node: a, onCompare: compareA, onExpose: exposeA, onAsk: askA }: Props,
  { node: b, onCompare: compareB, onExpose: exposeB, onAsk: askB }: Props,
): boolean =>
  compareA === compareB &&
  exposeA === exposeB &&
  askA === askB &&
  (
    [
      'id',
      'type',
      'version',
      'name',
      'options',
      'limited',
      'off',
      'amount',
      'twin',
      'group',
    ] as const
  ).every((member) => a[member] === b[member]);

/** The name of the chosen node and what concerns it as a whole; its modes under it. */
export const BenchHeader = memo(function BenchHeader({ node, onCompare, onExpose, onAsk }: Props) {
  const group = useDocument((state) => findGroupDefinition(state.document, node));
  const definition = findNodeDefinition(node);
  const options = Object.entries(definition?.options ?? {});
  const starts = definition?.starts ?? [];
  return (
    <>
      <div className="mb-1 flex flex-wrap items-center gap-2">
        <span
          title="Pointing at this shows on the model what the node changes"
          onPointerEnter={() => {
            pointAtPart({ part: 'node', node: node.id });
          }}
          onPointerLeave={() => {
            pointAtPart(null);
          }}
        >
          <NodeName
            node={node}
            title={node.name ?? group?.name ?? definition?.title ?? node.type}
          />
        </span>
        {definition && node.name && node.name !== definition.title ? (
          <span className="text-soft">{definition.title}</span>
        ) : null}
        {node.off ? <OffNote id={node.id} /> : null}
        {node.twin === undefined ? null : (
          <span className="text-soft">linked: edited together with its copies</span>
        )}
        <span className="ml-auto flex items-center gap-2">
          {group ? (
            <Button
              onClick={() => {
                enterGroup(node.id);
              }}
            >
              Open the group
            </Button>
          ) : null}
          <LimitChoice node={node} />
          <NodeMenu node={node} onAsk={onAsk} />
        </span>
      </div>
      {options.length > 0 || starts.length > 0 ? (
        <div className="mb-1 flex flex-wrap items-center gap-x-3 gap-y-1">
          {options.map(([id, option]) => (
            <NodeOption key={id} {...{ node, id, option, onCompare, onExpose }} />
          ))}
          {starts.length > 0 ? <StartMenu node={node} starts={starts} /> : null}
        </div>
      ) : null}
    </>
  );
}, isAlike);

function OffNote({ id }: { readonly id: string }) {
  return (
    <Button
      look="quiet"
      className="min-h-[24px] !px-1 !py-0 text-[11.5px] text-madder"
      onClick={() => {
        toggleOff([id]);
      }}
    >
      off: switch on
    </Button>
  );
}

function NodeName({ node, title }: { readonly node: NodeInstance; readonly title: string }) {
  return (
    <input
      aria-label="Name"
      key={`${node.id}${title}`}
      defaultValue={title}
      className={
        'field-sizing-content max-w-[260px] min-w-[60px] border-b border-transparent ' +
        'bg-transparent text-[14px] font-semibold ' +
        'hover:border-seam'
      }
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        event.stopPropagation();
      }}
      onBlur={(event) => {
        const name = event.target.value.trim();
        if (name && name !== title)
          commit('Named a node', (current, at) =>
            changeNode(current, at, node.id, (each) => ({ ...each, name })),
          );
      }}
    />
  );
}

interface OptionProps extends Omit<Props, 'onAsk'> {
  readonly id: string;
  readonly option: OptionDefinition;
}

function NodeOption({ node, id, option, onCompare, onExpose }: OptionProps) {
  const expose = useExpose(node.id, id, onExpose);
  const isShown = useFindings(
    ({ shown }) => shown?.place.node === node.id && shown.place.option === id,
  );
  return (
    <span className={`flex items-center ${isShown ? 'finding-shown' : ''}`}>
      <OptionChoice
        option={option}
        value={own(node.options, id) ?? option.default}
        onChange={(choice) => {
          changeOption(node, id, choice);
        }}
      />
      {option.open === 'parts' ? (
        <PickButton title={option.title} picking={pickingPart(node, id, option.title)} />
      ) : null}
      {expose ? <ExposeButton title={option.title} onExpose={expose} /> : null}
      {option.choices.length > 1 ? (
        <button
          type="button"
          aria-label={`Compare every choice of ${option.title}`}
          title="Compare in pictures"
          className="press text-soft hover:text-ink"
          onClick={() => {
            onCompare(id);
          }}
        >
          <LayoutGrid size={12} />
        </button>
      ) : null}
    </span>
  );
}

function LimitChoice({ node }: { readonly node: NodeInstance }) {
  return (
    <label className="flex shrink-0 items-center gap-1 text-[11px] whitespace-nowrap text-soft">
      <input
        type="checkbox"
        checked={node.limited ?? false}
        onChange={(event) => {
          const limited = event.target.checked;
          commit('Limited a node', (current, at) =>
            changeNode(current, at, node.id, (each) => ({ ...each, limited })),
          );
        }}
      />
      limit to 0–1
    </label>
  );
}
