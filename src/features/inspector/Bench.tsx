'use client';
import { LayoutGrid } from 'lucide-react';
import { useState } from 'react';
import { describePorts, findDefinition, groupOf, idleInputs } from '@/core/compile/catalogue';
import { rampModes, valueOf } from '@/core/compile/uniforms';
import { changeNode, networkOf } from '@/core/edit/board';
import { setOption, setValue } from '@/core/edit/nodes';
import { isCurve, isFormula, isRamp } from '@/core/graph/document';
import type { NodeInstance } from '@/core/graph/document';
import { boardAt, commit, endGesture, enterGroup, keyOf, togglePin } from '@/state/editor-store';
import type { Evaluation } from '@/state/evaluation';
import { pickingPart } from '@/state/picks';
import { useEditor } from '@/state/use-editor';
import { Button } from '@/ui/Button';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { AdviceList } from './AdviceList';
import { CompareSheet } from './CompareSheet';
import { CurveEditor } from './CurveEditor';
import { Distribution } from './Distribution';
import { FormulaEditor } from './FormulaEditor';
import { RampEditor } from './RampEditor';
import { InputRows } from './InputRows';
import { OptionChoice } from './OptionChoice';
import { PickButton } from './PickButton';
import { StrandBench } from './StrandBench';
import { StartMenu } from './StartMenu';

/**
 * The workbench under the board: all there is to set on the chosen node. `onExpose` is offered
 * inside groups.
 */
export function Bench({
  evaluation,
  onExpose,
}: {
  readonly evaluation: Evaluation | null;
  readonly onExpose: ((node: string, input: string) => void) | null;
}) {
  const document = useEditor((state) => state.document);
  const path = useEditor((state) => state.path);
  const selection = useEditor((state) => state.selection);
  const chosenStrand = useEditor((state) => state.chosenStrand);
  const network = networkOf(document, boardAt(document, path));
  const strand = network.strands.find((each) => each.id === chosenStrand);
  const node =
    selection.length === 1 ? network.nodes.find((each) => each.id === selection[0]) : undefined;
  if (strand) return <StrandBench strand={strand} />;
  if (!node)
    return (
      <p className="p-4 text-soft">
        {selection.length > 1
          ? `${String(selection.length)} things are selected. Ctrl+G packages them as a group.`
          : 'Select a card to set its values. To add a node, point at the board and type ' +
            'what it should do.'}
      </p>
    );
  return <NodeBench key={node.id} node={node} evaluation={evaluation} onExpose={onExpose} />;
}

function NodeBench({
  node,
  evaluation,
  onExpose,
}: {
  readonly node: NodeInstance;
  readonly evaluation: Evaluation | null;
  readonly onExpose: ((node: string, input: string) => void) | null;
}) {
  const document = useEditor((state) => state.document);
  const path = useEditor((state) => state.path);
  const taps = useEditor((state) => state.taps);
  const pin = useEditor((state) => state.pin);
  const [comparing, setComparing] = useState<string | null>(null);
  const board = boardAt(document, path);
  const group = groupOf(document, node);
  const definition = findDefinition(node.type);
  const ports = describePorts(document, node);
  const first = ports?.outputs[0];
  const compared = comparing === null ? undefined : definition?.options[comparing];
  const tap = first ? taps.get(keyOf(path, node.id, first.id)) : undefined;
  const title = node.name ?? group?.name ?? definition?.title ?? node.type;
  const idle = new Set(idleInputs(node));
  const shown = (ports?.inputs ?? []).filter((port) => !idle.has(port.id));
  const ramp = shown.find((port) => port.kind === 'ramp');
  const rampValue = ramp && valueOf(node, ramp.id);
  const curves = shown.flatMap((port) => {
    const value = port.kind === 'curve' ? valueOf(node, port.id) : undefined;
    return isCurve(value) ? [{ port, value }] : [];
  });
  const formula = shown.find((port) => port.kind === 'formula');
  const formulaValue = formula && valueOf(node, formula.id);
  const changeOption = (id: string, choice: string): void => {
    commit('Changed a mode', (current, at) => {
      const next = setOption(current, at, node.id, id, choice);
      const neutral = definition?.neutral[choice];
      // Another operation makes the old operand meaningless; its neutral one changes nothing.
      return neutral ? setValue(next, at, node.id, neutral.input, neutral.value) : next;
    });
  };
  return (
    <div className="flex h-full gap-4 overflow-auto p-3" data-testid="bench">
      <div className="w-[150px] shrink-0">
        {tap ? (
          <PictureCanvas
            picture={tap.picture}
            label={`Output of ${title}`}
            className="h-[112px] w-[112px] bg-stage"
          />
        ) : null}
        <div className="mt-1 flex flex-wrap gap-1">
          {(ports?.outputs ?? []).map((output) => {
            const key = keyOf(path, node.id, output.id);
            return (
              <button
                key={output.id}
                type="button"
                aria-pressed={pin === key}
                className={
                  'rounded-[2px] border px-1 text-[11px] ' +
                  (pin === key ? 'border-weld bg-weld text-weld-ink' : 'border-line')
                }
                onClick={() => {
                  togglePin(key);
                }}
              >
                {output.title}
              </button>
            );
          })}
        </div>
        {tap?.statistics ? (
          <Distribution statistics={tap.statistics} histogram={tap.histogram} />
        ) : null}
      </div>
      <div className="min-w-0 flex-1">
        <div className="mb-1 flex flex-wrap items-center gap-2">
          <input
            aria-label="Name"
            key={`${node.id}${title}`}
            defaultValue={title}
            className={
              'w-[180px] border-b border-transparent bg-transparent text-[14px] ' +
              'font-semibold hover:border-seam'
            }
            onKeyDown={(event) => {
              if (event.key === 'Enter') event.currentTarget.blur();
              event.stopPropagation();
            }}
            onBlur={(event) => {
              const name = event.target.value.trim();
              if (name && name !== title)
                commit('Named a node', (current, at) =>
                  changeNode(current, at, node.id, (each) => ({ ...each, name })),
                );
            }}
          />
          {definition && node.name && node.name !== definition.title ? (
            <span className="text-soft">{definition.title}</span>
          ) : null}
          {Object.entries(definition?.options ?? {}).map(([id, entry]) => (
            <span key={id} className="flex items-center">
              <OptionChoice
                option={entry}
                value={node.options[id] ?? entry.default}
                onChange={(choice) => {
                  changeOption(id, choice);
                }}
              />
              {entry.open === 'parts' ? (
                <PickButton title={entry.title} picking={pickingPart(node, id, entry.title)} />
              ) : null}
              {entry.choices.length > 2 ? (
                <button
                  type="button"
                  aria-label={`Compare every choice of ${entry.title}`}
                  title="Compare in pictures"
                  className="p-1 text-soft hover:text-ink"
                  onClick={() => {
                    setComparing(id);
                  }}
                >
                  <LayoutGrid size={12} />
                </button>
              ) : null}
            </span>
          ))}
          {definition && definition.starts.length > 0 ? (
            <StartMenu node={node} starts={definition.starts} />
          ) : null}
          {group ? (
            <Button
              onClick={() => {
                enterGroup(node.id);
              }}
            >
              Open the group
            </Button>
          ) : null}
          <label
            className={
              'ml-auto flex shrink-0 items-center gap-1 text-[11px] whitespace-nowrap ' +
              'text-soft'
            }
          >
            <input
              type="checkbox"
              checked={node.limited ?? false}
              onChange={(event) => {
                const limited = event.target.checked;
                commit('Limited a node', (current, at) =>
                  changeNode(current, at, node.id, (each) => ({ ...each, limited })),
                );
              }}
            />
            limit to 0–1
          </label>
        </div>
        {compared && comparing !== null && first && evaluation ? (
          <CompareSheet
            node={node}
            option={comparing}
            definition={compared}
            output={first.id}
            evaluation={evaluation}
            onChoose={(choice) => {
              changeOption(comparing, choice);
            }}
            onClose={() => {
              setComparing(null);
            }}
          />
        ) : null}
        <p
          className="mb-1 max-w-[640px] truncate text-[11px] text-soft"
          title={`${definition?.help ?? ''}\n${definition?.formula ?? ''}`}
        >
          {definition?.help ?? group?.description}
        </p>
        <AdviceList node={node} />
        {ramp && rampValue && isRamp(rampValue) ? (
          <RampEditor
            ramp={rampValue}
            modes={rampModes(node)}
            histogram={taps.get(`${[...path, node.id].join('/')}<value`)?.histogram ?? null}
            onDone={endGesture}
            onChange={(value, gesture, label) => {
              commit(
                label,
                (current, at) => setValue(current, at, node.id, ramp.id, value),
                gesture,
              );
            }}
          />
        ) : null}
        <div className="flex flex-wrap gap-3">
          {curves.map(({ port, value }, k) => (
            <CurveEditor
              key={port.id}
              title={port.title}
              curve={value}
              histogram={
                k === 0
                  ? (taps.get(`${[...path, node.id].join('/')}<value`)?.histogram ?? null)
                  : null
              }
              onDone={endGesture}
              onChange={(next, gesture, label) => {
                commit(
                  label,
                  (current, at) => setValue(current, at, node.id, port.id, next),
                  gesture ? `${port.id} ${gesture}` : null,
                );
              }}
            />
          ))}
        </div>
        {formula && isFormula(formulaValue) ? (
          <FormulaEditor
            text={formulaValue.formula}
            onChange={(text) => {
              commit('Changed a formula', (current, at) =>
                setValue(current, at, node.id, formula.id, { formula: text }),
              );
            }}
          />
        ) : null}
        <InputRows
          node={node}
          ports={shown.filter((port) => !['ramp', 'curve', 'formula'].includes(port.kind))}
          board={board}
          onExpose={onExpose}
        />
      </div>
    </div>
  );
}
