import type { ComponentType } from 'react';
import type { InputView } from '@/core/compile/catalogue';
import type { GroupDefinition, InputValue } from '@/core/graph/document';

/** What sets the value of a dial as what it is; given by whoever shows the front. */
export type SettingEditor = ComponentType<{
  readonly view: InputView;
  readonly group: GroupDefinition;
  readonly path: readonly string[];
  readonly value: InputValue;
  readonly onChange: (value: InputValue, gesture: string | null) => void;
  readonly onDone: () => void;
}>;
