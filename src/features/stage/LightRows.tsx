import { Trash2 } from 'lucide-react';
import { computeAngles, changeLight, directionAt, removeLight } from '@/core/edit/lights';
import { cameraAxes } from '@/core/evaluate/camera';
import type { SceneLight } from '@/core/graph/document';
import { commit, endGesture } from '@/state/editing';
import { useView } from '@/state/use-stores';
import { Choose } from '@/ui/Choose';
import { ColourField } from '@/ui/ColourField';
import { DirectionBall } from '@/ui/DirectionBall';
import { NumberField } from '@/ui/NumberField';
import { NumberRow, PanelRow } from './PanelRow';

const KINDS = [
  { value: 'far', title: 'Far', help: 'Parallel light, like the sun.' },
  { value: 'near', title: 'Near', help: 'A lamp beside the model.' },
];
/** Brightness at the right end of the slider; more can be typed. */
const BRIGHT = 6;

type Change = (
  label: string,
  to: Parameters<typeof changeLight>[2],
  gesture?: string | null,
) => void;
interface Props {
  readonly light: SceneLight;
  readonly change: Change;
}

/** One light: its name, kind, colour and strength, and where it stands. */
export function LightRows({ light }: Pick<Props, 'light'>) {
  const change: Change = (label, to, gesture = null) => {
    commit(
      label,
      (current) => changeLight(current, light.id, to),
      gesture && `light ${light.id} ${gesture}`,
    );
  };
  return (
    <fieldset className="mb-2 border-b border-line pb-1.5" data-testid={`light-${light.id}`}>
      <LightHeading light={light} change={change} />
      <NumberRow
        title="Strength"
        of={light.name}
        unit="number"
        value={light.intensity}
        low={0}
        high={BRIGHT}
        most={1e6}
        step={0.05}
        onChange={(intensity, isDrag) => {
          change('Dimmed a light', { intensity }, isDrag ? 'strength' : null);
        }}
      />
      {light.kind === 'far' ? (
        <DirectionRows light={light} change={change} />
      ) : (
        <PlaceRow light={light} change={change} />
      )}
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

function LightHeading({ light, change }: Props) {
  return (
    <div className="mb-1 flex items-center gap-1.5">
      <input
        aria-label="Name of the light"
        defaultValue={light.name}
        className={
          'w-[64px] min-w-0 flex-1 border-b border-transparent bg-transparent font-semibold ' +
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
        onDone={endGesture}
      />
      <button
        type="button"
        className="ml-auto grid h-[24px] w-[24px] place-items-center text-soft hover:text-ink"
        aria-label={`Remove ${light.name}`}
        onClick={() => {
          commit('Removed a light', (current) => removeLight(current, light.id));
        }}
      >
        <Trash2 size={12} />
      </button>
    </div>
  );
}

/** From where a far light comes, as two angles. */
function DirectionRows({ light, change }: Props) {
  const { round, up } = computeAngles(light.at);
  const move = (at: SceneLight['at']): void => {
    change('Moved a light', { at }, 'at');
  };
  return (
    <>
      <NumberRow
        title="Azimuth"
        of={light.name}
        unit="degrees"
        value={round}
        low={-180}
        high={180}
        step={1}
        onChange={(next) => {
          move(directionAt(next, up));
        }}
      />
      <NumberRow
        title="Elevation"
        of={light.name}
        unit="degrees"
        value={up}
        low={-90}
        high={90}
        step={1}
        onChange={(next) => {
          move(directionAt(round, next));
        }}
      />
      <PanelRow title="From">
        <LightBall light={light} change={change} />
      </PanelRow>
    </>
  );
}

/** A far light taken by hand: the ball is seen as the model beside it. */
function LightBall({ light, change }: Props) {
  const camera = useView((state) => state.camera);
  if (!camera) return null;
  return (
    <DirectionBall
      label={`Direction of ${light.name}`}
      value={light.at}
      axes={cameraAxes(camera)}
      onDrag={(at) => {
        change('Moved a light', { at }, 'ball');
      }}
      onDone={endGesture}
    />
  );
}

/** Where a near light stands, in object sizes from the middle. */
function PlaceRow({ light, change }: Props) {
  const [x, y, z] = light.at;
  return (
    <PanelRow title="Place">
      {(['x', 'y', 'z'] as const).map((axis, k) => (
        <NumberField
          key={axis}
          label={`Place of ${light.name} ${axis}`}
          value={light.at[k] ?? 0}
          step={0.05}
          className="!w-[62px]"
          onCommit={(next) => {
            change('Moved a light', {
              at: [k === 0 ? next : x, k === 1 ? next : y, k === 2 ? next : z],
            });
          }}
        />
      ))}
    </PanelRow>
  );
}
