'use client';
import { Tabs } from 'radix-ui';
import { LibraryBrowser } from '@/features/library/LibraryBrowser';
import { PresetBrowser } from '@/features/presets/PresetBrowser';
import { PRESET_KINDS, PRESET_NAMES } from '@/core/presets/kinds';

interface Props {
  readonly projects: readonly { readonly id: string; readonly name: string }[];
}
const TAB =
  'min-h-[24px] border-b-2 border-transparent px-1 text-soft ' +
  'data-[state=active]:border-weld data-[state=active]:text-ink';
const GROUPS = 'groups';

/** All that stands on racks: groups, and presets kind by kind. */
export function Shelves({ projects }: Props) {
  return (
    <Tabs.Root defaultValue={GROUPS}>
      <Tabs.List
        aria-label="What the library holds"
        className="mb-3 flex gap-4 border-b border-line text-[14px]"
      >
        <Tabs.Trigger value={GROUPS} className={TAB}>
          Groups
        </Tabs.Trigger>
        {PRESET_NAMES.map((kind) => (
          <Tabs.Trigger key={kind} value={kind} className={TAB}>
            {PRESET_KINDS[kind].plural}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value={GROUPS} tabIndex={-1}>
        <LibraryBrowser projects={projects} />
      </Tabs.Content>
      {PRESET_NAMES.map((kind) => (
        <Tabs.Content key={kind} value={kind} tabIndex={-1}>
          <PresetBrowser kind={kind} />
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
