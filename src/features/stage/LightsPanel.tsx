'use client';
import { Lightbulb, Plus, Trash2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { lightsOf } from '@/core/compile/lights';
import {
  addLight,
  anglesOf,
  changeLight,
  changeSurroundings,
  directionAt,
  removeLight,
} from '@/core/edit/lights';
import { DEFAULT_SURROUNDINGS, LIMITS, SURROUNDINGS_LIMITS } from '@/core/graph/document';
import type { SceneLight } from '@/core/graph/document';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { ColourField } from '@/ui/ColourField';
import { NumberField } from '@/ui/NumberField';
import { ValueSlider } from '@/ui/ValueSlider';
import { commit, endGesture } from '@/state/editing';
import { useDocument } from '@/state/use-stores';

const KINDS = [
  { value: 'far', title: 'Far', help: 'Parallel light, like the sun.' },
  { value: 'near', title: 'Near', help: 'A lamp beside the model.' },
];
/** Brightness at the right end of the slider; more can be typed. */
const BRIGHT = 6;

/** The lights of the scene: saved with the material, undone like everything else. */
export function LightsPanel() {
  const document = useDocument((state) => state.document);
  const lights = lightsOf(document);
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button look="quiet" aria-label="Lights" title="Lights">
          <Lightbulb size={14} />
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="end"
          sideOffset={6}
          className={
            'z-40 w-[330px] rounded-[2px] border border-seam bg-panel p-2 text-[12px] ' +
            'text-ink shadow-lg'
          }
          aria-label="Lights"
          onKeyDown={(event) => {
            if (event.key !== 'Escape') event.stopPropagation();
          }}
        >
          {lights.map((light) => (
            <LightRows key={light.id} light={light} />
          ))}
          <SurroundingsRows />
          {lights.every(({ intensity }) => intensity === 0) ? (
            <p role="status" className="mb-1 text-madder">
              {(document.surroundings ?? DEFAULT_SURROUNDINGS).strength === 0
                ? 'No light is on and the surroundings are dark: the model is black.'
                : 'No light is on: only the surroundings are seen.'}
            </p>
          ) : null}
          <Button
            disabled={lights.length >= LIMITS.lights}
            onClick={() => {
              commit('Added a light', (current) => addLight(current).document);
            }}
          >
            <Plus size={12} />
            Add a light
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/**
 * The studio around the model: turned to see its windows glide over the surface, dimmed to judge a
 * light alone.
 */
function SurroundingsRows() {
  const { turn, strength } = useDocument(
    (state) => state.document.surroundings ?? DEFAULT_SURROUNDINGS,
  );
  const change = (
    label: string,
    to: Parameters<typeof changeSurroundings>[1],
    gesture: string | null = null,
  ): void => {
    commit(label, (current) => changeSurroundings(current, to), gesture);
  };
  const [low, high] = SURROUNDINGS_LIMITS.turn;
  return (
    <fieldset className="mb-2 border-b border-line pb-1.5">
      <legend className="font-semibold">Surroundings</legend>
      <Row title="Round">
        <ValueSlider
          label="Round of the surroundings"
          value={turn}
          low={low}
          high={high}
          step={1}
          onChange={(next) => {
            change('Turned the surroundings', { turn: next }, 'surroundings turn');
          }}
          onDone={endGesture}
        />
        <NumberField
          label="Round of the surroundings, degrees"
          value={Math.round(turn)}
          low={low}
          high={high}
          step={1}
          className="!w-[48px]"
          onCommit={(next) => {
            change('Turned the surroundings', { turn: next });
          }}
        />
      </Row>
      <Row title="Strength">
        <ValueSlider
          label="Strength of the surroundings"
          value={strength}
          low={0}
          high={3}
          step={0.05}
          onChange={(next) => {
            change('Dimmed the surroundings', { strength: next }, 'surroundings strength');
          }}
          onDone={endGesture}
        />
        <NumberField
          label="Strength of the surroundings, number"
          value={strength}
          low={0}
          high={SURROUNDINGS_LIMITS.strength[1]}
          step={0.05}
          className="!w-[48px]"
          onCommit={(next) => {
            change('Dimmed the surroundings', { strength: next });
          }}
        />
      </Row>
    </fieldset>
  );
}

function LightRows({ light }: { readonly light: SceneLight }) {
  const change = (
    label: string,
    to: Parameters<typeof changeLight>[2],
    gesture: string | null = null,
  ): void => {
    commit(
      label,
      (current) => changeLight(current, light.id, to),
      gesture && `light ${light.id} ${gesture}`,
    );
  };
  const { round, up } = anglesOf(light.at);
  const angle = (
    title: string,
    value: number,
    low: number,
    high: number,
    set: (next: number) => void,
  ) => (
    <Row title={title}>
      <ValueSlider
        label={`${title} of ${light.name}`}
        value={value}
        low={low}
        high={high}
        step={1}
        onChange={set}
        onDone={endGesture}
      />
      <NumberField
        label={`${title} of ${light.name}, degrees`}
        value={Math.round(value)}
        low={low}
        high={high}
        step={1}
        className="!w-[48px]"
        onCommit={set}
      />
    </Row>
  );
  return (
    <fieldset className="mb-2 border-b border-line pb-1.5" data-testid={`light-${light.id}`}>
      <div className="mb-1 flex items-center gap-1.5">
        <input
          aria-label="Name of the light"
          defaultValue={light.name}
          className={
            'w-[96px] border-b border-transparent bg-transparent font-semibold ' +
            'hover:border-seam'
          }
          onKeyDown={(event) => {
            if (event.key === 'Enter') event.currentTarget.blur();
          }}
          onBlur={(event) => {
            const name = event.target.value.trim();
            if (name && name !== light.name) change('Named a light', { name });
          }}
        />
        <Choose
          label={`Kind of ${light.name}`}
          value={light.kind}
          items={KINDS}
          onChange={(kind) => {
            change('Changed a light', { kind: kind as SceneLight['kind'] });
          }}
        />
        <ColourField
          compact
          label={`Colour of ${light.name}`}
          value={light.colour}
          onChange={(colour) => {
            change('Coloured a light', { colour }, 'colour');
          }}
        />
        <button
          type="button"
          className="ml-auto p-1 text-soft hover:text-ink"
          aria-label={`Remove ${light.name}`}
          onClick={() => {
            commit('Removed a light', (current) => removeLight(current, light.id));
          }}
        >
          <Trash2 size={12} />
        </button>
      </div>
      <Row title="Strength">
        <ValueSlider
          label={`Strength of ${light.name}`}
          value={light.intensity}
          low={0}
          high={BRIGHT}
          step={0.05}
          onChange={(intensity) => {
            change('Dimmed a light', { intensity }, 'strength');
          }}
          onDone={endGesture}
        />
        <NumberField
          label={`Strength of ${light.name}, number`}
          value={light.intensity}
          low={0}
          high={1e6}
          step={0.05}
          className="!w-[48px]"
          onCommit={(intensity) => {
            change('Dimmed a light', { intensity });
          }}
        />
      </Row>
      {light.kind === 'far'
        ? angle('Round', round, -180, 180, (next) => {
            change('Moved a light', { at: directionAt(next, up) }, 'at');
          })
        : null}
      {light.kind === 'far'
        ? angle('Up', up, -90, 90, (next) => {
            change('Moved a light', { at: directionAt(round, next) }, 'at');
          })
        : null}
      {light.kind === 'near' ? (
        <Row title="Place">
          {(['x', 'y', 'z'] as const).map((axis, k) => (
            <NumberField
              key={axis}
              label={`Place of ${light.name} ${axis}`}
              value={light.at[k] ?? 0}
              step={0.05}
              className="!w-[62px]"
              onCommit={(next) => {
                change('Moved a light', {
                  at: light.at.map((old, c) =>
                    c === k ? next : old,
                  ) as unknown as SceneLight['at'],
                });
              }}
            />
          ))}
        </Row>
      ) : null}
      <label className="flex items-center gap-1 text-[11px] text-soft">
        <input
          type="checkbox"
          checked={light.shadows === true}
          onChange={(event) => {
            change('Changed shadows', { shadows: event.target.checked });
          }}
        />
        throws shadows
      </label>
    </fieldset>
  );
}

function Row({ title, children }: { readonly title: string; readonly children: React.ReactNode }) {
  return (
    <div className="grid grid-cols-[60px_1fr] items-center gap-2 py-[1px]">
      <span className="text-soft">{title}</span>
      <span className="flex items-center gap-1.5">{children}</span>
    </div>
  );
}
