'use client';
import { useRef } from 'react';
import { DropdownMenu } from 'radix-ui';
import { rampClipText, readRampClip } from '@/core/graph/ramp-clip';
import {
  distribute,
  insertStop,
  mirrored,
  reverse,
  widestGap,
  withSegments,
} from '@/core/edit/ramps';
import { LIMITS } from '@/core/graph/document';
import { Button } from '@/ui/Button';
import { focusBoard } from '@/ui/focus-board';
import { Menu } from '@/ui/Menu';
import type { MenuItem } from '@/ui/Menu';
import { tellProblem } from '@/ui/tell-problem';
import { toast } from 'sonner';
import { readStrip, saveStrip } from './strip-files';
import type { RampToolsProps } from './edited-ramp';

/** What can be done to a ramp as a whole. */
function changesOf({ ramp, modes, stop, onChange }: RampToolsProps): readonly MenuItem[] {
  const { layout } = modes;
  const reflected = mirrored(ramp, LIMITS.rampStops);
  const back: MenuItem = {
    title: 'Reverse',
    act: () => {
      onChange(reverse(ramp, layout), null, 'Reversed the ramp');
    },
  };
  if (layout !== 'placed') return [back];
  return [
    back,
    {
      title: 'Mirror',
      isOff: reflected === null,
      act: () => {
        if (reflected) onChange(reflected, null, 'Mirrored the ramp');
      },
    },
    {
      title: 'Distribute the stops',
      act: () => {
        onChange(distribute(ramp), null, 'Distributed the stops');
      },
    },
    {
      title: `All ways ${stop.segment}`,
      help: 'The way of the chosen stop for all of them',
      act: () => {
        onChange(withSegments(ramp, stop.segment), null, `Made all ways ${stop.segment}`);
      },
    },
  ];
}

async function copy(text: string, what: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(text);
    toast(`Copied ${what}`);
  } catch {
    toast.error('The browser does not let this page write to the clipboard. Nothing was copied.');
  }
}

async function paste({ ramp, modes, onChange }: RampToolsProps): Promise<void> {
  const text = await navigator.clipboard.readText().catch(() => '');
  const clip = readRampClip(text);
  if ('reason' in clip) toast.error(clip.reason);
  else if ('ramp' in clip) onChange(clip.ramp, null, 'Pasted a ramp');
  else {
    const next = insertStop(ramp, clip.stop, widestGap(ramp, modes));
    if (next) onChange(next, null, 'Pasted a stop');
    else toast.error('The ramp has as many stops as it may. Remove one first.');
  }
}

function clipboardOf(props: RampToolsProps): readonly MenuItem[] {
  const { ramp, stop } = props;
  return [
    { title: 'Copy the ramp', act: () => void copy(rampClipText({ ramp }), 'the ramp') },
    { title: 'Copy the stop', act: () => void copy(rampClipText({ stop }), 'a stop') },
    {
      title: 'Paste',
      help: 'A ramp in place of this one, or a stop in the widest gap',
      act: () => void paste(props),
    },
  ];
}

/** What there is to do with a ramp as a whole, its copies, and its files. */
export function RampMenu(props: RampToolsProps) {
  const { ramp, modes, onChange } = props;
  const picker = useRef<HTMLInputElement>(null);
  const files: readonly MenuItem[] = [
    {
      title: 'Save as a strip image',
      help: 'A PNG of 512 × 32 pixels, in sRGB',
      act: () => {
        saveStrip(ramp, modes);
      },
    },
    { title: 'Read a strip image …', act: () => picker.current?.click() },
  ];
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button>Ramp …</Button>
        </DropdownMenu.Trigger>
        <Menu
          sections={() => [changesOf(props), clipboardOf(props), files]}
          onClosed={focusBoard}
        />
      </DropdownMenu.Root>
      <input
        ref={picker}
        type="file"
        hidden
        aria-label="Strip image of a ramp"
        accept=".png,.jpg,.jpeg,.exr,.hdr"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file)
            readStrip(file).then((read) => {
              onChange(read, null, 'Read a ramp from an image');
            }, tellProblem);
        }}
      />
    </>
  );
}
