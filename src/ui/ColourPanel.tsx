'use client';
import { ClipboardPaste, Copy, ImageUp, Pipette } from 'lucide-react';
import { useContext, useState } from 'react';
import { HexColorPicker } from 'react-colorful';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import type { Triple } from '@/core/graph/document';
import { COLOUR_MODELS, colourText, readColourText } from '@/core/surface/colour-models';
import type { ColourModel } from '@/core/surface/colour-models';
import { fromHex, toHex } from '@/core/surface/colour-science';
import { colours, copyColour } from './colours';
import { ColourChip } from './ColourChip';
import { IconButton } from './IconButton';
import { NumberField } from './NumberField';
import { PaletteSlot } from './palette-slot';
import { ReferenceImage } from './ReferenceImage';

/** A place a colour may be taken from, as the stage. */
export interface ColourSource {
  readonly name: string;
  /** Asks for it; what is chosen is given to the field. */
  readonly ask: (take: (colour: Triple) => void) => void;
}

interface Props {
  readonly value: Triple;
  readonly label: string;
  readonly sources: () => readonly ColourSource[];
  /** Takes each step of a drag. */
  readonly onChange: (colour: Triple) => void;
  readonly onDone?: (() => void) | undefined;
  /** Takes a colour that was chosen. */
  readonly onSettle: (colour: Triple) => void;
  readonly onLeave: () => void;
}

/** All ways to set a colour: by eye, by numbers, of those used last, and from elsewhere. */
export function ColourPanel(props: Props) {
  const { value, label, onChange, onDone, onSettle } = props;
  const [isImageOpen, setImageOpen] = useState(false);
  const showPalettes = useContext(PaletteSlot);
  return (
    <div className="flex flex-col gap-1.5">
      <div
        onPointerUp={() => {
          onDone?.();
        }}
      >
        <HexColorPicker
          style={{ width: '100%', height: 132 }}
          color={toHex(value)}
          onChange={(hex) => {
            const colour = fromHex(hex);
            if (colour && hex !== toHex(value)) onChange(colour);
          }}
        />
      </div>
      <HexRow {...props} />
      {COLOUR_MODELS.map((model) => (
        <ModelRow key={model.id} model={model} {...props} />
      ))}
      <RecentColours onSettle={onSettle} />
      {showPalettes(onSettle)}
      <Elsewhere
        {...props}
        onImage={() => {
          setImageOpen(!isImageOpen);
        }}
      />
      {isImageOpen ? <ReferenceImage label={label} onPick={onSettle} /> : null}
    </div>
  );
}

/** The colour as it is written in web pages, to type, copy and paste. */
function HexRow({ value, label, onSettle }: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const copied = useStore(colours, (state) => state.copied);
  const leave = (): void => {
    if (draft === null) return;
    const colour = readColourText(draft);
    if (colour) onSettle(colour);
    else toast(`“${draft.slice(0, 40)}” is no colour: type six digits, as 80c040.`);
    setDraft(null);
  };
  const copy = (): void => {
    copyColour(value);
    // Where the page may not write there, it still pastes within the page.
    void navigator.clipboard.writeText(colourText(value)).catch(() => undefined);
    toast(`Copied ${label.toLowerCase()} ${toHex(value)}`);
  };
  return (
    <div className="flex items-center gap-1">
      <span className="w-[92px] text-soft">hex</span>
      <input
        aria-label={`${label} hex`}
        spellCheck={false}
        value={draft ?? toHex(value)}
        className="figures min-h-[24px] w-[84px] border border-line bg-ground px-1 text-[12px]"
        onChange={(event) => {
          setDraft(event.target.value);
        }}
        onFocus={(event) => {
          event.currentTarget.select();
        }}
        onBlur={leave}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
        }}
      />
      <IconButton name={`Copy ${label.toLowerCase()}`} onClick={copy}>
        <Copy size={12} />
      </IconButton>
      <IconButton
        name={`Paste into ${label.toLowerCase()}`}
        isDisabled={copied === null}
        onClick={() => {
          if (copied) onSettle(copied);
        }}
      >
        <ClipboardPaste size={12} />
      </IconButton>
    </div>
  );
}

/** As many digits as a step of it needs. */
const shown = (x: number, step: number): number => Number(x.toFixed(step >= 1 ? 1 : 4));

interface ModelProps extends Props {
  readonly model: ColourModel;
}
function ModelRow({ model, value, label, onChange, onDone, onSettle }: ModelProps) {
  const numbers = model.read(value);
  const withNumber = (k: number, next: number): Triple => {
    const [a, b, c] = numbers;
    return model.write([k === 0 ? next : a, k === 1 ? next : b, k === 2 ? next : c]);
  };
  return (
    <div className="flex items-center gap-1" role="group" aria-label={model.title}>
      <span className="w-[92px] leading-[13px] text-soft">{model.title}</span>
      {model.channels.map(({ name, low, high, step }, k) => (
        <NumberField
          key={name}
          label={`${label}, ${model.id} ${name}`}
          value={shown(numbers[k] ?? 0, step)}
          low={low}
          high={high}
          step={step}
          className="!w-[54px]"
          onCommit={(next) => {
            onSettle(withNumber(k, next));
          }}
          onDrag={(next) => {
            onChange(withNumber(k, next));
          }}
          onDone={() => {
            onDone?.();
          }}
        />
      ))}
    </div>
  );
}

function RecentColours({ onSettle }: Pick<Props, 'onSettle'>) {
  const recent = useStore(colours, (state) => state.recent);
  if (recent.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-1" role="group" aria-label="Used last">
      {recent.map((colour) => (
        <ColourChip key={colour.join()} colour={colour} onTake={onSettle} />
      ))}
    </div>
  );
}

/** Colours of the stage, of what arrives, and of a picture. */
function Elsewhere({
  sources,
  onSettle,
  onLeave,
  onImage,
}: Props & { readonly onImage: () => void }) {
  const [places] = useState(sources);
  const look =
    'flex min-h-[24px] items-center gap-1 rounded-[2px] border border-line px-1.5 hover:bg-raised';
  return (
    <div className="flex flex-wrap gap-1">
      {places.map(({ name, ask }) => (
        <button
          key={name}
          type="button"
          className={look}
          onClick={() => {
            onLeave();
            ask(onSettle);
          }}
        >
          <Pipette size={12} />
          {name}
        </button>
      ))}
      <button type="button" className={look} onClick={onImage}>
        <ImageUp size={12} />
        From a picture
      </button>
    </div>
  );
}
