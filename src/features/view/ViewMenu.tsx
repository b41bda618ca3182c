'use client';
import { Popover } from 'radix-ui';
import { PanelsTopLeft, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { dropView, keepView, keptViews } from '@/core/edit/views';
import type { KeptView } from '@/core/graph/document';
import { validPath } from '@/state/board-path';
import {
  commit,
  frameAll,
  frameSelection,
  goBack,
  goForward,
  goToView,
  togglePanel,
  toggleStageAlone,
} from '@/state/editing';
import { PANELS, stores } from '@/state/stores';
import type { PanelName } from '@/state/stores';
import { useDocument, useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { PANEL_DIGITS, openFind } from './use-view-keys';

const NAMES: Record<PanelName, string> = {
  stage: 'Stage',
  board: 'Board',
  bench: 'Bench',
  front: 'Front of the open group',
};

/** Everything that changes what is seen, and nothing of the material but the views it keeps. */
export function ViewMenu() {
  const [open, setOpen] = useState(false);
  const close = (): void => {
    setOpen(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button look="quiet" aria-label="View" title="View">
          <PanelsTopLeft size={14} />
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="View"
          className="z-40 w-[290px] border border-line bg-panel p-2 text-[12px] text-ink shadow-xl"
          onKeyDown={(event) => {
            if (event.key !== 'Escape') event.stopPropagation();
          }}
        >
          <Places onDone={close} />
          <Panels />
          <KeptViews onDone={close} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

interface RowProps {
  readonly title: string;
  readonly keys: string;
  readonly isOff?: boolean;
  readonly onChoose: () => void;
}

function Row({ title, keys, isOff = false, onChoose }: RowProps) {
  return (
    <button
      type="button"
      disabled={isOff}
      className={
        'flex min-h-[24px] w-full items-center px-1 text-left hover:bg-raised ' +
        'disabled:opacity-45'
      }
      onClick={onChoose}
    >
      <span className="flex-1">{title}</span>
      <kbd className="text-soft">{keys}</kbd>
    </button>
  );
}

function Places({ onDone }: { readonly onDone: () => void }) {
  const hasBehind = useView((state) => state.placesBehind.length > 0);
  const hasAhead = useView((state) => state.placesAhead.length > 0);
  const hasChosen = useView((state) => state.selection.length > 0);
  const act = (does: () => unknown) => (): void => {
    onDone();
    does();
  };
  return (
    <div className="border-b border-line pb-1">
      <Row
        title="Find on this board"
        keys="Ctrl F"
        onChoose={act(() => {
          openFind(true);
        })}
      />
      <Row title="Show all cards" keys="Home" onChoose={act(frameAll)} />
      <Row
        title="Show the selection"
        keys="Shift Home"
        isOff={!hasChosen}
        onChoose={act(frameSelection)}
      />
      <Row title="Back" keys="Alt ←" isOff={!hasBehind} onChoose={act(goBack)} />
      <Row title="Forward" keys="Alt →" isOff={!hasAhead} onChoose={act(goForward)} />
    </div>
  );
}

function Panels() {
  const hidden = useView((state) => state.hidden);
  return (
    <div className="border-b border-line py-1">
      {PANELS.map((name) => (
        <label key={name} className="flex min-h-[24px] items-center gap-2 px-1 hover:bg-raised">
          <input
            type="checkbox"
            checked={!hidden.has(name)}
            onChange={() => {
              togglePanel(name);
            }}
          />
          <span className="flex-1">{NAMES[name]}</span>
          <kbd className="text-soft">Alt {PANEL_DIGITS[name]}</kbd>
        </label>
      ))}
      <Row title="Stage alone, or everything" keys="Alt 0" onChoose={toggleStageAlone} />
    </div>
  );
}

function keepThisView(name: string): void {
  const { path, boardView, camera } = stores.view.getState();
  commit('Kept a view', (document) =>
    keepView(document, {
      name,
      path: [...path],
      origin: [boardView.x, boardView.y],
      zoom: boardView.zoom,
      ...(camera ? { camera: { eye: [...camera.eye], target: [...camera.target] } } : {}),
    }),
  );
}

function recall({ path, origin: [x, y], zoom, camera }: KeptView): void {
  const { document } = stores.document.getState();
  const now = stores.view.getState().camera;
  goToView(
    { path: validPath(document, path), view: { x, y, zoom } },
    camera && now ? { ...now, eye: camera.eye, target: camera.target } : null,
  );
}

function KeptViews({ onDone }: { readonly onDone: () => void }) {
  const views = useDocument((state) => keptViews(state.document));
  return (
    <div className="pt-1">
      <h2 className="px-1 font-semibold">Kept views of board and camera</h2>
      <ul aria-label="Kept views" className="max-h-[180px] overflow-auto">
        {views.map((view) => (
          <li key={view.id} className="flex items-center">
            <button
              type="button"
              className="min-h-[24px] flex-1 px-1 text-left wrap-anywhere hover:bg-raised"
              onClick={() => {
                onDone();
                recall(view);
              }}
            >
              {view.name}
            </button>
            <button
              type="button"
              aria-label={`Forget the view ${view.name}`}
              className="press text-soft"
              onClick={() => {
                commit('Forgot a view', (document) => dropView(document, view.id));
              }}
            >
              <Trash2 size={12} />
            </button>
          </li>
        ))}
      </ul>
      <KeepForm />
    </div>
  );
}

function KeepForm() {
  const [name, setName] = useState('');
  const wanted = name.trim();
  return (
    <form
      className="flex gap-1 p-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (wanted === '') return;
        keepThisView(wanted);
        setName('');
      }}
    >
      <input
        aria-label="Name of the view"
        placeholder="Name of what is shown now"
        value={name}
        maxLength={80}
        className="min-w-0 flex-1 border border-line bg-ground px-1"
        onChange={(event) => {
          setName(event.target.value);
        }}
      />
      <Button type="submit" disabled={wanted === ''}>
        Keep
      </Button>
    </form>
  );
}
