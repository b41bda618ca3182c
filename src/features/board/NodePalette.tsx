'use client';
import { Command } from 'cmdk';
import { useEffect, useRef, useState } from 'react';
import { describePorts, mayConnect, searchNodes } from '@/core/compile/catalogue';
import { READY_GROUPS } from '@/core/edit/ready-groups';
import type { GroupDefinition } from '@/core/graph/document';
import { emptyDocument } from '@/core/graph/document';
import type { NodeDefinition, PortKind } from '@/core/nodes/define';
import { FamilyStitch } from './FamilyStitch';

export type PaletteChoice =
  | {
      readonly type: string;
      readonly group?: string;
      readonly options?: Readonly<Record<string, string>>;
    }
  | { readonly ready: string }
  | { readonly note: true }
  | { readonly region: true };
interface Props {
  readonly x: number;
  readonly y: number;
  readonly initial: string;
  readonly groups: readonly GroupDefinition[];
  /** Only nodes that can take (or give) what an open strand carries. */
  readonly fitting: { readonly kind: PortKind; readonly end: 'input' | 'output' } | null;
  readonly onChoose: (choice: PaletteChoice) => void;
  readonly onClose: () => void;
}
const recent: string[] = [];

function fits(definition: NodeDefinition, fitting: Props['fitting']): boolean {
  if (!fitting) return true;
  const ports = describePorts(emptyDocument(''), {
    id: 'x',
    type: definition.id,
    version: definition.version,
    at: [0, 0],
    values: {},
    options: {},
  });
  if (fitting.end === 'input')
    return ports?.inputs.some((port) => mayConnect(fitting.kind, port.kind)) ?? false;
  return ports?.outputs.some((port) => mayConnect(port.kind, fitting.kind)) ?? false;
}

/** Finds a node by part of its name, or of what it does, at the pointer. */
export function NodePalette({ x, y, initial, groups, fitting, onChoose, onClose }: Props) {
  const [query, setQuery] = useState(initial);
  const closing = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  // One that is gone already must not close the next.
  useEffect(
    () => () => {
      clearTimeout(closing.current);
    },
    [],
  );
  const found = searchNodes(query).filter((hit) => fits(hit.definition, fitting));
  const sorted = query.trim()
    ? found
    : [...found].sort((a, b) => rank(a.definition.id) - rank(b.definition.id));
  const matching = groups.filter((group) => group.name.toLowerCase().includes(query.toLowerCase()));
  const nothing = sorted.length + matching.length + readyFor(query).length === 0;
  const extras = [
    ['Note', { note: true }],
    ['Region', { region: true }],
  ] as const;
  const choose = (choice: PaletteChoice): void => {
    if ('type' in choice) recent.unshift(choice.type);
    onChoose(choice);
  };
  return (
    <div
      className="fixed z-50 w-[330px] rounded-[3px] border border-seam bg-panel shadow-2xl"
      style={{
        left: Math.min(x, window.innerWidth - 340),
        top: Math.min(y, window.innerHeight - 330),
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') onClose();
      }}
    >
      <Command shouldFilter={false} label="Add a node">
        <Command.Input
          autoFocus
          value={query}
          onValueChange={setQuery}
          placeholder="What should it do?"
          className="w-full border-b border-line bg-transparent px-3 py-2 outline-none"
          onBlur={(event) => {
            if (!event.currentTarget.closest('div.fixed')?.contains(event.relatedTarget))
              closing.current = setTimeout(onClose, 120);
          }}
          onFocus={(event) => {
            const end = event.currentTarget.value.length;
            event.currentTarget.setSelectionRange(end, end);
          }}
        />
        <Command.List className="max-h-[270px] overflow-auto p-1">
          {nothing ? (
            <Command.Empty className="px-3 py-2 text-soft">No node does “{query}”.</Command.Empty>
          ) : null}
          {sorted.map(({ key, title, help, definition, options }) => (
            <Command.Item
              key={key}
              value={key}
              onSelect={() => {
                choose({ type: definition.id, options });
              }}
              className={
                'flex cursor-pointer items-baseline gap-2 px-2 py-1 ' +
                'data-[selected=true]:bg-raised'
              }
            >
              <FamilyStitch family={definition.family} />
              <span className="shrink-0 font-medium">{title}</span>
              <span className="truncate text-[11px] text-soft">{help}</span>
            </Command.Item>
          ))}
          {(fitting?.end === 'input' ? [] : readyFor(query)).map(({ name, definition }) => (
            <Command.Item
              key={name}
              value={`ready ${name}`}
              onSelect={() => {
                choose({ ready: name });
              }}
              className={
                'flex cursor-pointer items-baseline gap-2 px-2 py-1 ' +
                'data-[selected=true]:bg-raised'
              }
            >
              <FamilyStitch family="group" />
              <span className="shrink-0 font-medium">{name}</span>
              <span className="truncate text-[11px] text-soft">{definition.description}</span>
            </Command.Item>
          ))}
          {matching.map((group) => (
            <Command.Item
              key={group.id}
              value={`group ${group.id}`}
              onSelect={() => {
                choose({ type: 'group', group: group.id });
              }}
              className={
                'flex cursor-pointer items-baseline gap-2 px-2 py-1 ' +
                'data-[selected=true]:bg-raised'
              }
            >
              <FamilyStitch family="group" />
              <span className="font-medium">{group.name}</span>
              <span className="text-[11px] text-soft">group of this material</span>
            </Command.Item>
          ))}
          {!fitting &&
            extras
              .filter(([title]) => title.toLowerCase().includes(query.toLowerCase()))
              .map(([title, choice]) => (
                <Command.Item
                  key={title}
                  value={title}
                  onSelect={() => {
                    choose(choice);
                  }}
                  className="cursor-pointer px-2 py-1 data-[selected=true]:bg-raised"
                >
                  {title}
                </Command.Item>
              ))}
        </Command.List>
      </Command>
    </div>
  );
}

/**
 * Ready chains whose name, or another word for them, has what is asked for; none until something
 * is.
 */
function readyFor(query: string): typeof READY_GROUPS {
  const wanted = query.trim().toLowerCase();
  return wanted
    ? READY_GROUPS.filter(({ name, synonyms }) =>
        [name.toLowerCase(), ...synonyms].some((word) => word.includes(wanted)),
      )
    : [];
}

function rank(id: string): number {
  const at = recent.indexOf(id);
  return at < 0 ? 1000 : at;
}
