'use client';
import { Command } from 'cmdk';
import { useEffect, useRef, useState } from 'react';
import { describePorts, mayConnect } from '@/core/compile/catalogue';
import { isTradeNameOf, readyByTrade } from '@/core/compile/trade-words';
import { searchNodes } from '@/core/compile/search-nodes';
import { READY_GROUPS } from '@/core/edit/ready-groups';
import { emptyDocument } from '@/core/graph/document';
import type { GroupDefinition } from '@/core/graph/document';
import type { NodeDefinition, PortKind } from '@/core/nodes/define';
import type { EntrySummary } from '@/contract/library';
import { useLibrarySearch } from '@/state/library-search';
import { recentEntries } from '@/state/placing';
import type { PlacedEntry } from '@/state/placing';
import { Swatch } from '@/ui/Swatch';
import { FamilyStitch } from './FamilyStitch';

export type PaletteChoice =
  | {
      readonly type: string;
      readonly group?: string;
      readonly options?: Readonly<Record<string, string>>;
    }
  | { readonly ready: string }
  /** A group of the library. */
  | { readonly entry: PlacedEntry }
  | { readonly emptyGroup: true }
  | { readonly note: true }
  | { readonly region: true };
interface Props {
  readonly x: number;
  readonly y: number;
  readonly initial: string;
  readonly groups: readonly GroupDefinition[];
  /** Only nodes that can take (or give) what an open strand carries. */
  readonly fitting: { readonly kind: PortKind; readonly end: 'input' | 'output' } | null;
  /** What is asked for, where it is not something to add: then only nodes are offered. */
  readonly asks?: string;
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

/** One row of the list, and what choosing it adds. */
interface Row {
  readonly key: string;
  readonly title: string;
  readonly help: string;
  readonly family: Parameters<typeof FamilyStitch>[0]['family'] | null;
  readonly choice: PaletteChoice;
  /** Of its picture, where it has one. */
  readonly picture?: string;
}
const MARKS: readonly Row[] = [
  {
    key: 'Empty group',
    title: 'Empty group',
    help: 'a board of its own, built from inside',
    family: 'group',
    choice: { emptyGroup: true },
  },
  { key: 'Note', title: 'Note', help: '', family: null, choice: { note: true } },
  { key: 'Region', title: 'Region', help: '', family: null, choice: { region: true } },
];

/** What the words typed find: nodes, ready chains, groups of this material, marks of the board. */
function findRows(
  query: string,
  groups: Props['groups'],
  fitting: Props['fitting'],
  library: readonly Row[],
): readonly Row[] {
  const found = searchNodes(query).filter((hit) => fits(hit.definition, fitting));
  const sorted = query.trim()
    ? found
    : [...found].sort((a, b) => rank(a.definition.id) - rank(b.definition.id));
  const isNamed = (name: string): boolean => name.toLowerCase().includes(query.toLowerCase());
  const ready = fitting?.end === 'input' ? [] : readyFor(query);
  const nodes = sorted.map(({ key, title, help, definition, options }) => ({
    key,
    title,
    help,
    family: definition.family,
    choice: { type: definition.id, options },
  }));
  const chains = ready.map(({ name, definition }) => ({
    key: `ready ${name}`,
    title: name,
    help: definition.description,
    family: 'group' as const,
    choice: { ready: name },
  }));
  const isMeant = ({ title }: Row): boolean => isTradeNameOf(query, title);
  return [
    // What the trade calls exactly so comes before what is only alike.
    ...chains.filter(isMeant),
    // Without a word what was used lately comes first, in either kind.
    ...(query.trim() ? [...nodes, ...library] : [...library, ...nodes]),
    ...chains.filter((row) => !isMeant(row)),
    ...groups
      .filter(({ name }) => isNamed(name))
      .map(({ id, name }) => ({
        key: `group ${id}`,
        title: name,
        help: 'group of this material',
        family: 'group' as const,
        choice: { type: 'group', group: id },
      })),
    ...(fitting ? [] : MARKS.filter(({ title }) => isNamed(title))),
  ];
}

/** Of the library so many are shown with a word, and without one of those used lately. */
const MOST_FOUND = 8;

/** What the library has for the words typed; without any, what was placed last in this browser. */
function useLibraryRows(query: string, isWanted: boolean): readonly Row[] {
  const { data } = useLibrarySearch({ query }, isWanted);
  if (!isWanted) return [];
  const recent = recentEntries();
  const rankOf = ({ id }: EntrySummary): number =>
    recent.includes(id) ? recent.indexOf(id) : recent.length;
  const entries = [...(data?.entries ?? [])].sort((a, b) => rankOf(a) - rankOf(b));
  const shown = query.trim() ? entries : entries.filter(({ id }) => recent.includes(id));
  return shown.slice(0, MOST_FOUND).map(({ id, name, version, description, swatchHash }) => ({
    key: `library ${id}`,
    title: name,
    help: `library, ${version}: ${description}`,
    family: 'group' as const,
    choice: { entry: { id, name, version } },
    picture: swatchHash,
  }));
}

/** Finds a node by part of its name, or of what it does, at the pointer. */
export function NodePalette({ x, y, initial, groups, fitting, asks, ...rest }: Props) {
  const { onChoose, onClose } = rest;
  const [query, setQuery] = useState(initial);
  const library = useLibraryRows(query, asks === undefined && fitting?.end !== 'input');
  const found = findRows(query, groups, fitting, library);
  const rows = asks === undefined ? found : found.filter(({ choice }) => 'type' in choice);
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
      <Command shouldFilter={false} label={asks ?? 'Add a node'}>
        <PaletteInput
          query={query}
          asks={asks ?? 'What should it do?'}
          onChange={setQuery}
          onLeave={onClose}
        />
        <PaletteList rows={rows} query={query} onChoose={choose} />
      </Command>
    </div>
  );
}

/** What was found; where that is nothing but what is alike, it says so first. */
function PaletteList({
  rows,
  query,
  onChoose,
}: {
  readonly rows: readonly Row[];
  readonly query: string;
  readonly onChoose: (choice: PaletteChoice) => void;
}) {
  const isFound = rows.some(({ family, choice }) => family && !('entry' in choice));
  const isAlike = rows.some(({ choice }) => 'entry' in choice);
  return (
    <Command.List className="max-h-[270px] overflow-auto p-1">
      {isFound ? null : (
        <p role="status" className="px-3 py-2 text-soft">
          No node does “{query}”{isAlike ? '; the library has what is alike:' : '.'}
        </p>
      )}
      {rows.map(({ key, title, help, family, choice, picture }) => (
        <Command.Item
          key={key}
          value={key}
          onSelect={() => {
            onChoose(choice);
          }}
          className={
            `flex cursor-pointer gap-2 px-2 py-1 data-[selected=true]:bg-raised ` +
            (picture ? 'items-center' : 'items-baseline')
          }
        >
          {picture ? (
            <Swatch hash={picture} label="" className="h-8 w-8 shrink-0" />
          ) : family ? (
            <FamilyStitch family={family} />
          ) : null}
          <span className="shrink-0 font-medium">{title}</span>
          <span className="truncate text-[11px] text-soft">{help}</span>
        </Command.Item>
      ))}
    </Command.List>
  );
}

/** Where the words are typed; leaving the palette closes it. */
function PaletteInput({
  query,
  asks,
  onChange,
  onLeave,
}: {
  readonly query: string;
  readonly asks: string;
  readonly onChange: (query: string) => void;
  readonly onLeave: () => void;
}) {
  const closing = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  // One that is gone already must not close the next.
  useEffect(
    () => () => {
      clearTimeout(closing.current);
    },
    [],
  );
  return (
    <Command.Input
      autoFocus
      value={query}
      onValueChange={onChange}
      placeholder={asks}
      className="w-full border-b border-line bg-transparent px-3 py-2 outline-none"
      onBlur={(event) => {
        if (!event.currentTarget.closest('div.fixed')?.contains(event.relatedTarget))
          closing.current = setTimeout(onLeave, 120);
      }}
      onFocus={(event) => {
        const end = event.currentTarget.value.length;
        event.currentTarget.setSelectionRange(end, end);
      }}
    />
  );
}

/**
 * Ready chains whose name, or another word for them, has what is asked for; none until something
 * is.
 */
function readyFor(query: string): typeof READY_GROUPS {
  const wanted = query.trim().toLowerCase();
  return wanted
    ? READY_GROUPS.filter(
        ({ name, synonyms }) =>
          [name.toLowerCase(), ...synonyms].some((word) => word.includes(wanted)) ||
          readyByTrade(query).includes(name),
      )
    : [];
}

function rank(id: string): number {
  const at = recent.indexOf(id);
  return at < 0 ? 1000 : at;
}
