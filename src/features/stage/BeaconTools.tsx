'use client';
import { LocateFixed } from 'lucide-react';
import type { BeaconInput, PlacedBeacon } from '@/core/edit/beacons';
import { Button } from '@/ui/Button';
import { select } from '@/state/editing';
import { stores } from '@/state/stores';

const MODES: readonly (readonly [BeaconInput, string])[] = [
  ['place', 'Place'],
  ['turn', 'Turn'],
  ['extent', 'Extent'],
];
interface Props {
  readonly beacons: readonly PlacedBeacon[];
  readonly chosen: string | null;
  readonly mode: BeaconInput;
  readonly onMode: (mode: BeaconInput) => void;
  readonly onFind: (beacon: PlacedBeacon) => void;
}

/** The beacons of the board by name, and which handles the chosen one has. */
export function BeaconTools({ beacons, chosen, mode, onMode, onFind }: Props) {
  const held = beacons.find((beacon) => beacon.id === chosen);
  return (
    <div className="flex flex-col items-end gap-1" data-testid="beacon-tools">
      <div className="flex flex-wrap justify-end gap-1">
        {beacons.map((beacon) => (
          <button
            key={beacon.id}
            type="button"
            aria-pressed={beacon.id === chosen}
            onClick={() => {
              select([beacon.card]);
              stores.view.setState({ beacon: beacon.id });
            }}
            className={
              'rounded-[2px] border px-1.5 py-0.5 ' +
              (beacon.id === chosen
                ? 'border-weld bg-weld text-weld-ink'
                : 'border-line bg-panel/80 text-ink')
            }
          >
            {beacon.title}
          </button>
        ))}
      </div>
      {held ? <HandleChoice held={held} mode={mode} onMode={onMode} onFind={onFind} /> : null}
    </div>
  );
}

/** Which handles the chosen beacon has on the stage. */
function HandleChoice({
  held,
  mode,
  onMode,
  onFind,
}: Pick<Props, 'mode' | 'onMode' | 'onFind'> & { readonly held: PlacedBeacon }) {
  return (
    <div
      className="flex items-center gap-1 rounded-[2px] bg-panel/80 p-0.5"
      role="group"
      aria-label={`Handles of ${held.title}`}
    >
      {MODES.map(([value, title]) => (
        <button
          key={value}
          type="button"
          aria-pressed={mode === value}
          disabled={!held.free.has(value)}
          title={held.free.has(value) ? undefined : 'It is wired or driven by a dial'}
          onClick={() => {
            onMode(value);
          }}
          className={
            'rounded-[2px] px-1.5 py-0.5 disabled:opacity-40 ' +
            (mode === value ? 'bg-raised font-semibold' : '')
          }
        >
          {title}
        </button>
      ))}
      <Button
        look="quiet"
        className="!px-1 !py-0"
        aria-label="Find it on the stage"
        title="Find it"
        disabled={!held.isKnown}
        onClick={() => {
          onFind(held);
        }}
      >
        <LocateFixed size={13} />
      </Button>
    </div>
  );
}
