'use client';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { own } from '@/core/base/own';
import { findKeptValue } from '@/core/compile/neutral';
import { addPort, changePort, movePort, removePort } from '@/core/edit/group-ports';
import type { PortSide } from '@/core/edit/group-ports';
import { isTriple } from '@/core/graph/document';
import type { GroupPort, ValueKind } from '@/core/graph/document';
import { commit, currentBoard } from '@/state/editing';
import { useDocument } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { IconButton } from '@/ui/IconButton';
import { NumberField } from '@/ui/NumberField';
import { Tick } from '@/ui/Tick';

const PANEL =
  'nodrag nopan z-50 w-[264px] rounded-[2px] border border-seam bg-panel p-2 text-[12px] ' +
  'text-ink shadow-lg';
const FIELD = 'min-w-0 flex-1 border border-line bg-ground px-1';

type Change = (label: string, to: Partial<Omit<GroupPort, 'id'>>) => void;
interface Props {
  readonly groupId: string;
  readonly side: PortSide;
  readonly port: GroupPort;
}

/** The name of a port on an edge; pressed, all that can be said of the port. */
export function PortSettings({ groupId, side, port }: Props) {
  const change: Change = (label, to) => {
    commit(label, (current) => changePort(current, groupId, side, port.id, to));
  };
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button
          type="button"
          className={
            'nodrag -my-[3px] block min-h-[24px] w-full leading-[14px] wrap-anywhere ' +
            'hover:underline ' +
            (side === 'outputs' ? 'text-right' : 'text-left')
          }
          title={port.help ? `${port.name}: ${port.help}` : `Settings of ${port.name}`}
        >
          {port.name}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side={side === 'inputs' ? 'right' : 'left'}
          sideOffset={10}
          collisionPadding={8}
          className={PANEL}
          aria-label={`Settings of ${port.name}`}
          onKeyDown={(event) => {
            if (event.key !== 'Escape') event.stopPropagation();
          }}
        >
          <Words port={port} change={change} />
          {side === 'inputs' ? <Unwired port={port} change={change} /> : null}
          <Acts groupId={groupId} side={side} port={port} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Words({ port, change }: { readonly port: GroupPort; readonly change: Change }) {
  return (
    <>
      {(['name', 'help'] as const).map((member) => (
        <label key={member} className="mb-1 flex items-center gap-2">
          <span className="w-12 text-soft">{member}</span>
          <input
            key={port[member] ?? ''}
            defaultValue={port[member] ?? ''}
            aria-label={`Port ${member}`}
            className={FIELD}
            onKeyDown={(event) => {
              if (event.key === 'Enter') event.currentTarget.blur();
            }}
            onBlur={(event) => {
              const next = event.target.value.trim();
              if (next === (port[member] ?? '') || (member === 'name' && next === '')) return;
              change(`Changed a port’s ${member}`, { [member]: next });
            }}
          />
        </label>
      ))}
      <p className="mb-1 text-soft">
        Carries {port.many ? 'a list of masks' : `a ${port.kind}`}. Its id, {port.id}, stays
        whatever it is called.
      </p>
    </>
  );
}

const INNER = 'inner',
  VALUE = 'value';
const COORDINATES = [
  { value: 'position', title: 'the position' },
  { value: 'normal', title: 'the normal' },
  { value: 'texture', title: 'texture coordinates' },
];

const NEUTRAL = {
  value: 'neutral',
  title: 'neutral',
  help: 'As if it were not there: the other side passes, a list counts the rest.',
};

/** What an input is while nothing is wired to it. */
function Unwired({ port, change }: { readonly port: GroupPort; readonly change: Change }) {
  // Offered where every input it goes to can do without it; kept in sight where it is chosen.
  const isNeutralOffered = useDocument(({ document }) => {
    const group = own(document.groups, currentBoard() ?? '');
    return (
      port.unwired === 'neutral' ||
      (group !== undefined && findKeptValue(document, group, port.id) === null)
    );
  });
  if (port.kind === 'surface' || port.many) return null;
  const now = port.fallback !== undefined ? VALUE : (port.unwired ?? INNER);
  const choose = (next: string): void => {
    const zero = port.kind === 'scalar' ? 0 : ([0, 0, 0] as const);
    change('Said what a port is unwired', {
      fallback: next === VALUE ? zero : undefined,
      unwired: next === VALUE || next === INNER ? undefined : (next as GroupPort['unwired']),
    });
  };
  return (
    <>
      <div className="mb-1 flex items-center gap-2">
        <span className="w-12 text-soft">unwired</span>
        <Choose
          label="What it is unwired"
          value={now}
          items={[
            { value: INNER, title: 'as inside', help: 'The values typed inside count.' },
            { value: VALUE, title: 'a value' },
            ...(isNeutralOffered ? [NEUTRAL] : []),
            ...(port.kind === 'vector' ? COORDINATES : []),
          ]}
          onChange={choose}
        />
      </div>
      {port.fallback === undefined ? null : <Fallback port={port} change={change} />}
      <div className="mb-1">
        <Tick
          title="hidden until it is wired"
          isOn={port.hidden === true}
          onChange={(isOn) => {
            change('Hid or showed a port', {
              hidden: isOn ? true : undefined,
            });
          }}
        />
      </div>
    </>
  );
}

function Fallback({ port, change }: { readonly port: GroupPort; readonly change: Change }) {
  const { fallback } = port;
  const label = 'Changed what a port is unwired';
  const lanes = isTriple(fallback) ? fallback : [fallback ?? 0];
  return (
    <div className="mb-1 flex items-center gap-2">
      <span className="w-12 text-soft">value</span>
      {lanes.map((lane, k) => (
        <NumberField
          key={k}
          label={lanes.length > 1 ? `Unwired value ${'xyz'.charAt(k)}` : 'Unwired value'}
          className="!w-[58px]"
          value={lane}
          onCommit={(next) => {
            const [x, y, z] = isTriple(fallback) ? fallback : [0, 0, 0];
            change(label, {
              fallback: isTriple(fallback)
                ? [k === 0 ? next : x, k === 1 ? next : y, k === 2 ? next : z]
                : next,
            });
          }}
        />
      ))}
    </div>
  );
}

function Acts({ groupId, side, port }: Props) {
  const move = (by: -1 | 1): void => {
    commit('Ordered the ports', (current) => movePort(current, groupId, side, port.id, by));
  };
  return (
    <div className="flex gap-1">
      <IconButton
        name={`Move ${port.name} up`}
        onClick={() => {
          move(-1);
        }}
      >
        <ArrowUp size={12} />
      </IconButton>
      <IconButton
        name={`Move ${port.name} down`}
        onClick={() => {
          move(1);
        }}
      >
        <ArrowDown size={12} />
      </IconButton>
      <IconButton
        name={`Remove ${port.name}`}
        onClick={() => {
          commit('Removed a port', (current) => removePort(current, groupId, side, port.id));
        }}
      >
        <Trash2 size={12} />
      </IconButton>
    </div>
  );
}

const KINDS: readonly { readonly value: ValueKind | 'list'; readonly title: string }[] = [
  { value: 'scalar', title: 'Number' },
  { value: 'vector', title: 'Vector' },
  { value: 'colour', title: 'Colour' },
  { value: 'surface', title: 'Surface' },
];

function addNamed(groupId: string, side: PortSide, name: string, kind: string): void {
  const isList = kind === 'list';
  commit('Added a port', (current) => {
    const made = addPort(current, groupId, side, {
      name: name.trim() || (side === 'inputs' ? 'Input' : 'Output'),
      kind: isList ? 'scalar' : (kind as ValueKind),
      ...(isList ? { many: true as const } : {}),
    });
    return made?.document ?? current;
  });
}

/** Adds a port to an edge by typing its name. */
export function AddPort({ groupId, side }: Pick<Props, 'groupId' | 'side'>) {
  const [name, setName] = useState('');
  const [kind, setKind] = useState<string>('scalar');
  const [isOpen, setOpen] = useState(false);
  const add = (): void => {
    addNamed(groupId, side, name, kind);
    setName('');
    setOpen(false);
  };
  const lists = side === 'inputs' ? [{ value: 'list', title: 'List of masks' }] : [];
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          type="button"
          className="nodrag min-h-[24px] w-full text-left text-[11px] text-soft"
        >
          {side === 'inputs' ? 'add an input' : 'add an output'}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side={side === 'inputs' ? 'right' : 'left'}
          collisionPadding={8}
          className={PANEL}
          aria-label={side === 'inputs' ? 'New input' : 'New output'}
          onKeyDown={(event) => {
            if (event.key === 'Enter') add();
            if (event.key !== 'Escape') event.stopPropagation();
          }}
        >
          <div className="flex items-center gap-2">
            <input
              aria-label="Name of the new port"
              placeholder="Name"
              value={name}
              className={FIELD}
              onChange={(event) => {
                setName(event.target.value);
              }}
            />
            <Choose
              label="What the new port carries"
              value={kind}
              items={[...KINDS, ...lists]}
              onChange={setKind}
            />
            <Button onClick={add}>Add</Button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
