'use client';
import { Command } from 'cmdk';
import { useMemo, useState } from 'react';
import { findNodes } from '@/core/edit/find-nodes';
import type { FoundBy, FoundNode } from '@/core/edit/find-nodes';
import { frameSelection, goTo, select } from '@/state/editing';
import { useFindings } from '@/state/use-findings';
import { useBoard, useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { openFind } from './use-view-keys';

const BY: Record<FoundBy, string> = {
  name: 'by name',
  type: 'by type',
  feeds: 'by what it feeds',
  dial: 'by its dial',
  value: 'by a value that was set',
  finding: 'by what is wrong',
};
/** How many are listed; the rest is counted. */
const LISTED = 100;

/** Finds cards of the open board, goes to one or selects all. */
export function FindPanel() {
  const isOpen = useView((state) => state.isFinding);
  return isOpen ? <OpenFindPanel /> : null;
}

function leave(): void {
  openFind(false);
  window.document.querySelector<HTMLElement>('[data-testid="board"]')?.focus();
}

function useFound(text: string, only: FoundBy | null): readonly FoundNode[] {
  const { document, board } = useBoard();
  const findings = useFindings((state) => state.findings);
  return useMemo(() => {
    const words = findings.flatMap(({ place, message }) =>
      place.board === board && place.node !== undefined ? [{ node: place.node, message }] : [],
    );
    return findNodes(document, board, text, { findings: words, ...(only ? { only } : {}) });
  }, [document, board, text, only, findings]);
}

function OpenFindPanel() {
  const [text, setText] = useState('');
  const [only, setOnly] = useState<FoundBy | null>(null);
  const found = useFound(text, only);
  return (
    <div
      role="search"
      data-testid="find"
      className={
        'absolute top-1 left-1 z-30 w-[330px] border border-seam bg-panel text-[12px] shadow-2xl'
      }
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') leave();
      }}
    >
      <Command shouldFilter={false} label="Find on this board">
        <div className="flex border-b border-line">
          <Command.Input
            autoFocus
            value={text}
            onValueChange={setText}
            placeholder="Find on this board"
            className="min-w-0 flex-1 bg-transparent px-2 py-1.5 outline-none"
          />
          <select
            aria-label="Look at"
            value={only ?? ''}
            className="bg-panel px-1"
            onChange={({ target: { value } }) => {
              setOnly(value === '' ? null : (value as FoundBy));
            }}
          >
            <option value="">everything</option>
            {Object.entries(BY).map(([by, words]) => (
              <option key={by} value={by}>
                {words}
              </option>
            ))}
          </select>
        </div>
        <FoundList found={found} />
        <FoundActions found={found} />
      </Command>
    </div>
  );
}

function FoundList({ found }: { readonly found: readonly FoundNode[] }) {
  const path = useView((state) => state.path);
  return (
    <Command.List className="max-h-[240px] overflow-auto p-1">
      <Command.Empty className="px-2 py-1 text-soft">Nothing on this board.</Command.Empty>
      {found.slice(0, LISTED).map(({ id, title, type, by, words }) => (
        <Command.Item
          key={id}
          value={id}
          className="cursor-pointer px-1 py-0.5 wrap-anywhere data-[selected=true]:bg-raised"
          onSelect={() => {
            goTo(path, { node: id });
          }}
        >
          <span className="font-medium">{title}</span>{' '}
          <span className="text-soft">
            {by === 'name' || by === 'type' ? type : `${BY[by]}: ${words}`}
          </span>
        </Command.Item>
      ))}
    </Command.List>
  );
}

function FoundActions({ found }: { readonly found: readonly FoundNode[] }) {
  return (
    <div className="flex items-center gap-1 border-t border-line p-1">
      <span role="status" className="flex-1 text-soft">
        {found.length === 1 ? '1 card' : `${String(found.length)} cards`}
        {found.length > LISTED ? `, the first ${String(LISTED)} listed` : ''}
      </span>
      <Button
        disabled={found.length === 0}
        onClick={() => {
          select(found.map(({ id }) => id));
          frameSelection();
          leave();
        }}
      >
        Select all
      </Button>
      <Button look="quiet" onClick={leave}>
        Close
      </Button>
    </div>
  );
}
