'use client';
import { Popover } from 'radix-ui';
import type { ClipboardEvent } from 'react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Triple } from '@/core/graph/document';
import { COLOUR_MODELS, colourText, readColourText } from '@/core/surface/colour-models';
import { toHex } from '@/core/surface/colour-science';
import { copyColour, noteColour } from './colours';
import { ColourPanel } from './ColourPanel';
import type { ColourSource } from './ColourPanel';
import { NumberField } from './NumberField';

interface Props {
  /** Linear light; may pass 1. */
  readonly value: Triple;
  readonly label: string;
  readonly onChange: (value: Triple) => void;
  readonly onDone?: () => void;
  readonly compact?: boolean;
  /** Where else a colour may be taken from. */
  readonly sources?: () => readonly ColourSource[];
}

/**
 * A colour in linear light: a swatch that opens its editor, and its three numbers. Copied and
 * pasted between any two while the swatch has the focus.
 */
export function ColourField(props: Props) {
  const { value, label, onChange, onDone, compact = false } = props;
  const settle = (next: Triple): void => {
    onChange(next);
    noteColour(next);
    onDone?.();
  };
  const linear = COLOUR_MODELS.find(({ id }) => id === 'linear');
  return (
    <span className="flex items-center gap-1">
      <Swatch {...props} onSettle={settle} />
      {!compact &&
        linear?.channels.map(({ name, low, high, step }, k) => {
          const withChannel = (next: number): Triple => {
            const [r, g, b] = value;
            return [k === 0 ? next : r, k === 1 ? next : g, k === 2 ? next : b];
          };
          return (
            <NumberField
              key={name}
              label={`${label} ${name}`}
              value={value[k] ?? 0}
              low={low}
              high={high}
              step={step}
              className="!w-[66px]"
              onCommit={(next) => {
                settle(withChannel(next));
              }}
              onDrag={(next) => {
                onChange(withChannel(next));
              }}
              onDone={() => {
                onDone?.();
              }}
            />
          );
        })}
    </span>
  );
}

function copyFrom(event: ClipboardEvent, label: string, value: Triple): void {
  event.preventDefault();
  event.stopPropagation();
  event.clipboardData.setData('text/plain', colourText(value));
  copyColour(value);
  toast(`Copied ${label.toLowerCase()} ${toHex(value)}`);
}

/** The colour that is pasted; says where it is none. */
function pastedOf(event: ClipboardEvent, label: string, value: Triple): Triple | null {
  event.preventDefault();
  event.stopPropagation();
  const colour = readColourText(event.clipboardData.getData('text/plain'));
  if (!colour) toast(`What is on the clipboard is no colour. ${label} stays ${toHex(value)}.`);
  return colour;
}

const NOWHERE = (): readonly ColourSource[] => [];

interface SwatchProps extends Props {
  readonly onSettle: (colour: Triple) => void;
}
function Swatch({ value, label, onChange, onDone, onSettle, sources = NOWHERE }: SwatchProps) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Popover.Root
      open={isOpen}
      onOpenChange={(next) => {
        setOpen(next);
        if (next) return;
        noteColour(value);
        onDone?.();
      }}
    >
      <Popover.Trigger
        aria-label={`${label} ${toHex(value)}`}
        title={`${label}: opens its editor. Ctrl+C copies it, Ctrl+V pastes one.`}
        data-colour={toHex(value)}
        className="h-[24px] w-8 shrink-0 rounded-[2px] border border-seam"
        style={{ background: toHex(value) }}
        onCopy={(event) => {
          copyFrom(event, label, value);
        }}
        onPaste={(event) => {
          const colour = pastedOf(event, label, value);
          if (colour) onSettle(colour);
        }}
      />
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          collisionPadding={8}
          aria-label={`${label}, its editor`}
          className={
            'z-50 w-[286px] rounded-[2px] border border-seam bg-panel p-2 text-[11.5px] ' +
            'text-ink shadow-lg'
          }
          onKeyDown={(event) => {
            if (event.key !== 'Escape') event.stopPropagation();
          }}
        >
          <ColourPanel
            value={value}
            label={label}
            sources={sources}
            onChange={onChange}
            onDone={onDone}
            onSettle={onSettle}
            onLeave={() => {
              setOpen(false);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
