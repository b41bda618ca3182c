'use client';
import { useState } from 'react';
import { PRESET_PAGE } from '@/contract/presets';
import type { PresetRack, PresetView } from '@/contract/presets';
import { describeError } from '@/core/base/problem';
import { PRESET_KINDS } from '@/core/presets/kinds';
import type { PresetKind } from '@/core/presets/kinds';
import { usePresets } from '@/state/presets';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { RackChoice } from '@/ui/RackChoice';
import { ArrangePreset } from './ArrangePreset';
import { PresetCard } from './PresetCard';

/** Where presets of a kind are taken and kept. */
const WHERE: Readonly<Record<PresetKind, string>> = {
  ramp: 'Taken and kept in a ramp’s editor, under Presets.',
  palette: 'Taken and kept in the editor of any colour; a ramp takes one as equal parts.',
  curve: 'Taken and kept in a curve’s editor, under Presets.',
  variant: 'Taken and kept above the dials of a placed group, and on the page of its entry.',
  starter: 'Kept from the menu of a material; new materials begin from them.',
};
const GRID = 'grid grid-cols-[repeat(auto-fill,minmax(clamp(186px,14vw,300px),1fr))] gap-3';

/** All presets of a kind on the racks the user sees. */
export function PresetBrowser({ kind }: { readonly kind: PresetKind }) {
  const [query, setQuery] = useState('');
  const [rack, setRack] = useState('');
  const [first, setFirst] = useState(0);
  const [arranged, setArranged] = useState<PresetView | null>(null);
  const { data: list, error } = usePresets({
    kind,
    query,
    ...(rack === '' ? {} : { rack }),
    ...(first > 0 ? { first: String(first) } : {}),
  });
  const { plural } = PRESET_KINDS[kind];
  return (
    <div data-testid="presets">
      <SearchLine
        what={plural.toLowerCase()}
        racks={list?.racks ?? []}
        {...{ query, rack }}
        onChange={(next) => {
          setQuery(next.query);
          setRack(next.rack);
          setFirst(0);
        }}
      />
      {error ? <ProblemNote problem={describeError(error)} /> : null}
      <ul className={GRID}>
        {list?.presets.map((preset) => (
          <PresetCard
            key={preset.id}
            preset={preset}
            rack={list.racks.find(({ id }) => id === preset.rack)?.name ?? ''}
            onArrange={() => {
              setArranged(preset);
            }}
          />
        ))}
      </ul>
      {list?.presets.length === 0 ? (
        <p>{query.trim() ? `No ${plural.toLowerCase()} have these words.` : 'None yet.'}</p>
      ) : null}
      <p className="mt-3 text-soft">{WHERE[kind]}</p>
      <Turning first={first} hasMore={list?.hasMore ?? false} onTurn={setFirst} />
      {arranged && list ? (
        <ArrangePreset
          key={arranged.id}
          preset={arranged}
          racks={list.racks}
          onClose={() => {
            setArranged(null);
          }}
        />
      ) : null}
    </div>
  );
}

interface Asked {
  readonly query: string;
  readonly rack: string;
}
interface LineProps extends Asked {
  readonly what: string;
  readonly racks: readonly PresetRack[];
  readonly onChange: (asked: Asked) => void;
}

function SearchLine({ what, racks, query, rack, onChange }: LineProps) {
  return (
    <div className="mb-3 flex flex-wrap items-center gap-3">
      <input
        aria-label={`Search the ${what}`}
        placeholder="By name, tag or description"
        value={query}
        onChange={(event) => {
          onChange({ query: event.target.value, rack });
        }}
        className="w-[300px] border border-line bg-panel px-2 py-1"
      />
      <RackChoice
        racks={racks}
        value={rack}
        onChange={(next) => {
          onChange({ query, rack: next });
        }}
      />
    </div>
  );
}

interface TurningProps {
  readonly first: number;
  readonly hasMore: boolean;
  readonly onTurn: (first: number) => void;
}

function Turning({ first, hasMore, onTurn }: TurningProps) {
  if (first === 0 && !hasMore) return null;
  return (
    <nav aria-label="Pages" className="mt-3 flex gap-2">
      <Button
        disabled={first === 0}
        onClick={() => {
          onTurn(Math.max(0, first - PRESET_PAGE));
        }}
      >
        Page before
      </Button>
      <Button
        disabled={!hasMore}
        onClick={() => {
          onTurn(first + PRESET_PAGE);
        }}
      >
        Next page
      </Button>
    </nav>
  );
}
