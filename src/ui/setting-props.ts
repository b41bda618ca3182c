import type { InputView } from '@/core/compile/catalogue';
import type { GroupDefinition, InputValue } from '@/core/graph/document';

/** What sets the value of a dial is given: the dial, where it stands, its value. */
export interface SettingProps {
  /** The dial as an input of its group. */
  readonly view: InputView;
  readonly group: GroupDefinition;
  /** The nodes that lead into the group. */
  readonly path: readonly string[];
  readonly value: InputValue;
  readonly onChange: (value: InputValue, gesture: string | null) => void;
  readonly onDone: () => void;
}
