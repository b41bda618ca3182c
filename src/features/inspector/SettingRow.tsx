'use client';
import { RotateCcw } from 'lucide-react';
import { own } from '@/core/base/own';
import type { InputView } from '@/core/compile/catalogue';
import { setValue } from '@/core/edit/nodes';
import type { GroupDefinition, InputValue, NodeInstance } from '@/core/graph/document';
import { commit, endGesture } from '@/state/editing';
import { IconButton } from '@/ui/IconButton';
import { DialSetting } from './DialSetting';

/** A dial of a group whose value does not flow: a choice, a ramp, a curve, an image, a formula. */
export function SettingRow({
  node,
  port,
  group,
  path,
  value,
}: {
  readonly node: NodeInstance;
  readonly port: InputView;
  readonly group: GroupDefinition;
  readonly path: readonly string[];
  readonly value: InputValue;
}) {
  const change = (next: InputValue | undefined, gesture: string | null): void => {
    commit(
      `${next === undefined ? 'Reset' : 'Set'} ${port.title.toLowerCase()}`,
      (current, at) => setValue(current, at, node.id, port.id, next),
      gesture,
    );
  };
  const isChanged = own(node.values, port.id) !== undefined;
  return (
    <div
      className="grid grid-cols-[92px_1fr_auto] items-start gap-x-2 py-[1px]"
      data-testid={`value-${port.id}`}
    >
      <span className={`text-[12px] ${isChanged ? 'font-semibold' : 'text-soft'}`}>
        {port.title}
      </span>
      <DialSetting
        view={port}
        group={group}
        path={path}
        value={value}
        onChange={change}
        onDone={endGesture}
      />
      {isChanged ? (
        <IconButton
          name={`Reset ${port.title}`}
          onClick={() => {
            change(undefined, null);
          }}
        >
          <RotateCcw size={11} />
        </IconButton>
      ) : null}
    </div>
  );
}
