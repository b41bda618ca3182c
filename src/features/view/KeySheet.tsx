'use client';
import { Keyboard } from 'lucide-react';
import { useEffect, useState } from 'react';
import { showGuide } from '@/state/guide';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';

type Keys = readonly (readonly [keys: string, does: string])[];

/** Every key of the editor, by where it works. */
const KEYS: Readonly<Record<string, Keys>> = {
  'On the board': [
    ['any letter, Space', 'Search for a node and add it at the pointer'],
    ['Delete', 'Remove what is chosen; what came in goes on'],
    ['Ctrl+C, Ctrl+X, Ctrl+V', 'Copy, cut and paste nodes'],
    ['Ctrl+D', 'Duplicate; with Shift, keep the strands that come in'],
    ['Ctrl+.', 'Switch what is chosen off, or on again'],
    ['Ctrl+A', 'Choose all'],
    ['Ctrl+G', 'Package as a group; with Shift, dissolve it'],
    ['Enter', 'Open the chosen group'],
    ['Escape', 'Choose nothing; then leave the group'],
    ['Home', 'Show all; with Shift, what is chosen'],
    ['arrows', 'Move the chosen cards; Tab goes from card to card'],
  ],
  'Everywhere in the editor': [
    ['Ctrl+Z, Ctrl+Y', 'Undo, redo'],
    ['Ctrl+F', 'Find on this board'],
    ['Alt+← Alt+→', 'Back and forward between places'],
    ['Alt+1 … Alt+4', 'Hide and show stage, board, bench, front'],
    ['Alt+0', 'The stage alone'],
    ['?', 'This sheet'],
  ],
  'In a number or on a slider': [
    ['↑ ↓', 'One step; Shift finer, Ctrl coarser'],
    ['drag', 'Changes it; Shift finer, Ctrl coarser, Escape gives up'],
    ['3*0.2, 1/3, 25%', 'Calculations are taken; +10%, *2 and /3 start from the number there'],
    ['Page ↑ ↓, Home, End', 'Slider: ten steps, its low and its high end'],
  ],
  'On a stop of a ramp': [
    ['← →', 'Moves it, with those at its place; alone with Alt; Shift finer, Ctrl coarser'],
    ['Delete', 'Removes it'],
    ['Ctrl+wheel', 'Looks closer at the ramp; the wheel alone goes along it'],
  ],
  'On what is pinned': [['arrows', 'Walk up and down its strands']],
  'On the stage': [
    ['Alt+click', 'What makes this point: every value and its share, back to the sources'],
    ['arrows, F', 'Turn the model; frame it'],
  ],
  'On a colour': [
    ['Enter', 'Open its editor'],
    ['Ctrl+C, Ctrl+V', 'Copy it, paste one'],
  ],
};

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.matches('input, textarea, select, [role="combobox"]') || target.isContentEditable);

/** The keys of the editor, behind a button and the question mark. */
export function KeySheet() {
  const [isOpen, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (event.key !== '?' || isTyping(event.target)) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', press);
    return () => {
      window.removeEventListener('keydown', press);
    };
  }, []);
  return (
    <>
      <Button
        look="quiet"
        aria-label="Keys"
        title="Keys of the editor, and the guide (?)"
        onClick={() => {
          setOpen(true);
        }}
      >
        <Keyboard size={14} />
      </Button>
      <Sheet
        open={isOpen}
        onClose={() => {
          setOpen(false);
        }}
        title="Keys"
        description="What the keys do, by where the focus is."
      >
        <Button
          className="mb-3"
          onClick={() => {
            showGuide(true);
            setOpen(false);
          }}
        >
          First weave: a guide of six steps
        </Button>
        <KeyList />
      </Sheet>
    </>
  );
}

function KeyList() {
  return Object.entries(KEYS).map(([place, keys]) => (
    <section key={place} className="mb-3">
      <h3 className="mb-1 font-semibold">{place}</h3>
      <dl className="grid grid-cols-[150px_1fr] gap-x-3 gap-y-1 text-[12px]">
        {keys.map(([name, does]) => (
          <div key={name} className="contents">
            <dt>
              <kbd>{name}</kbd>
            </dt>
            <dd className="text-soft">{does}</dd>
          </div>
        ))}
      </dl>
    </section>
  ));
}
