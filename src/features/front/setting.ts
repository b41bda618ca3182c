import type { ComponentType } from 'react';
import type { SettingProps } from '@/ui/setting-props';

/** What sets the value of a dial as what it is; given by whoever shows the front. */
export type SettingEditor = ComponentType<SettingProps>;
