'use client';
import { Trash2 } from 'lucide-react';
import type { PresetList, PresetView } from '@/contract/presets';
import type { RampModes } from '@/core/nodes/ramp-table';
import type { PresetValue } from '@/core/presets/kinds';
import { IconButton } from '../IconButton';
import { rackTitle } from './KeepPreset';
import { PresetPicture } from './PresetPicture';

/** A preset of a list: one of a rack, or one that ships with the application. */
export interface PresetRow {
  readonly id?: string;
  readonly name: string;
  readonly value: PresetValue | null;
  readonly mayEdit?: boolean;
  readonly swatchHash?: string | null;
}

interface Props {
  readonly rows: readonly PresetRow[];
  readonly title: string;
  readonly modes?: Partial<RampModes> | undefined;
  readonly onTake: (row: PresetRow) => void;
  readonly onForget?: ((id: string) => void) | undefined;
}

/** Presets as lines with a picture; pressing one takes it. */
export function PresetRows({ title, rows, modes = {}, onTake, onForget }: Props) {
  if (rows.length === 0) return null;
  return (
    <section>
      <h3 className="mb-1 text-soft">{title}</h3>
      <ul className="flex flex-col gap-1">
        {rows.map((row) => (
          <li key={row.id ?? row.name} className="flex items-center gap-1">
            <button
              type="button"
              className="press flex min-w-0 flex-1 items-center gap-2 border border-line p-0.5"
              onClick={() => {
                onTake(row);
              }}
            >
              <PresetPicture
                value={row.value}
                name={row.name}
                swatchHash={row.swatchHash ?? null}
                modes={modes}
                className="h-[20px] w-[120px] shrink-0"
              />
              <span className="truncate">{row.name}</span>
            </button>
            {row.id !== undefined && row.mayEdit && onForget ? (
              <IconButton
                name={`Forget ${row.name}`}
                onClick={() => {
                  onForget(row.id ?? '');
                }}
              >
                <Trash2 size={13} />
              </IconButton>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** All presets of a list, rack by rack; one’s own rack first. */
export function RackRows({
  list,
  ...rest
}: Omit<Props, 'rows' | 'title'> & { readonly list: PresetList | undefined }) {
  const racks = [...(list?.racks ?? [])].reverse();
  return racks.map((rack) => (
    <PresetRows
      key={rack.id}
      title={rackTitle(rack)}
      rows={(list?.presets ?? []).filter((each: PresetView) => each.rack === rack.id)}
      {...rest}
    />
  ));
}
