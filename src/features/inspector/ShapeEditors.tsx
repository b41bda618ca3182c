'use client';
import type { InputView } from '@/core/compile/catalogue';
import { rampModes, getInputValue } from '@/core/compile/uniforms';
import { setValue } from '@/core/edit/nodes';
import { arrivingKey } from '@/core/graph/result-key';
import { isCurve, isFormula, isRamp } from '@/core/graph/document';
import type { InputValue, NodeInstance } from '@/core/graph/document';
import type { PlacedFinding } from '@/state/findings-state';
import { colourSources } from './colour-sources';
import { CurveEditor } from './CurveEditor';
import { ExposeButton } from './ExposeButton';
import { FormulaEditor } from './formula/FormulaEditor';
import { PartMenu } from './PartMenu';
import { useExpose } from './use-expose';
import { RampEditor } from './ramp/RampEditor';
import type { RampDomain } from './ramp/edited-ramp';
import { commit, endGesture } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { explainValue } from '@/state/flat-view';
import { useBoard, useResults, useView } from '@/state/use-stores';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly node: NodeInstance;
  readonly ports: readonly InputView[];
  readonly findings: readonly PlacedFinding[];
  readonly onExpose: ((node: string, input: string) => void) | null;
  readonly evaluation: Evaluation | null;
}

/** Between which values the ramps of a node lie; null where their ends are wired or driven. */
function useDomain(node: NodeInstance): RampDomain | null {
  const { network, group } = useBoard();
  const ends = ['from', 'to'].map((input) => getInputValue(node, input));
  const isSettled = (input: string): boolean =>
    !network.strands.some(({ to }) => to.node === node.id && to.input === input) &&
    !group?.dials.some(({ drives }) =>
      drives.some((drive) => drive.node === node.id && drive.input === input),
    );
  const [from, to] = ends;
  if (from === undefined && to === undefined) return { from: 0, to: 1 };
  return typeof from === 'number' && typeof to === 'number' && ['from', 'to'].every(isSettled)
    ? { from, to }
    : null;
}

const callableOf = (ports: readonly InputView[]) =>
  ports
    .filter(({ kind }) => kind !== 'formula')
    .map(({ id, port }) => ({ name: id, help: port?.help ?? '' }));

const isShape = ({ kind }: InputView, value: InputValue | undefined): boolean =>
  value !== undefined && (kind === 'ramp' || kind === 'curve' || kind === 'formula');

/** Editors of the ramps, curves and formulas of a node, with what is wrong in them marked. */
export function ShapeEditors({ node, ports: all, findings, onExpose, evaluation }: Props) {
  // The shapes of a group are those of its dials, which have rows.
  const ports = all.filter(({ dial }) => dial === null);
  const path = useView((state) => state.path);
  const domain = useDomain(node);
  const arriving = arrivingKey([...path, node.id], 'value');
  const histogram = useResults((state) => state.taps.get(arriving)?.histogram ?? null);
  const valued = ports.map((port) => ({
    port,
    value: getInputValue(node, port.id),
    faults: findings.filter(({ place }) => place.input === port.id),
  }));
  const set = (id: string, value: InputValue, label: string, gesture: string | null): void => {
    commit(label, (current, at) => setValue(current, at, node.id, id, value), gesture);
  };
  return (
    <>
      {valued.map(({ port, value, faults }) =>
        port.kind === 'ramp' && isRamp(value) ? (
          <RampEditor
            key={port.id}
            ramp={value}
            modes={rampModes(node)}
            domain={domain}
            watched={{ path: [...path, node.id], input: 'value' }}
            histogram={histogram}
            faults={faults}
            sources={() => colourSources('Stop colour', node.id)}
            onExplain={(at) => {
              if (evaluation) explainValue(evaluation, arriving, at).catch(tellProblem);
            }}
            onDone={endGesture}
            onChange={(next, gesture, label) => {
              set(port.id, next, label, gesture);
            }}
          />
        ) : null,
      )}
      <Curves valued={valued} histogram={histogram} set={set} />
      <Formulas valued={valued} ports={ports} set={set} />
      {onExpose ? <ExposedShapes node={node} valued={valued} onExpose={onExpose} /> : null}
    </>
  );
}

interface Valued {
  readonly port: InputView;
  readonly value: InputValue | undefined;
  readonly faults: readonly PlacedFinding[];
}

function Curves({
  valued,
  histogram,
  set,
}: Pick<FormulasProps, 'valued' | 'set'> & { readonly histogram: Uint32Array | null }) {
  const curves = valued.flatMap(({ port, value }) => (isCurve(value) ? [{ port, value }] : []));
  return (
    <div className="flex flex-wrap gap-3">
      {curves.map(({ port, value }, k) => (
        <CurveEditor
          key={port.id}
          title={port.title}
          curve={value}
          histogram={k === 0 ? histogram : null}
          onDone={endGesture}
          onChange={(next, gesture, label) => {
            set(port.id, next, label, gesture ? `${port.id} ${gesture}` : null);
          }}
        />
      ))}
    </div>
  );
}

/** Ramps, curves and formulas that may become dials of the open group. */
function ExposedShapes({
  node,
  valued,
  onExpose,
}: Pick<Props, 'node'> & {
  readonly valued: readonly Valued[];
  readonly onExpose: (node: string, input: string) => void;
}) {
  const shapes = valued.filter(({ port, value }) => isShape(port, value));
  if (shapes.length === 0) return null;
  return (
    <p className="group/row flex items-center gap-2 text-[11.5px] text-soft">
      {shapes.map(({ port }) => (
        <ExposedShape key={port.id} {...{ node, port, onExpose }} />
      ))}
      {shapes.some(({ port }) => port.kind !== 'curve') ? (
        <PartMenu node={node.id} onExpose={onExpose} />
      ) : null}
    </p>
  );
}

function ExposedShape({
  node,
  port: { id, title },
  onExpose,
}: Pick<Props, 'node' | 'onExpose'> & { readonly port: InputView }) {
  const expose = useExpose(node.id, id, onExpose);
  return expose ? (
    <span className="flex items-center gap-1">
      {title}
      <ExposeButton title={title} onExpose={expose} />
    </span>
  ) : null;
}

interface FormulasProps {
  readonly valued: readonly Valued[];
  readonly ports: readonly InputView[];
  readonly set: (id: string, value: InputValue, label: string, gesture: string | null) => void;
}

function Formulas({ valued, ports, set }: FormulasProps) {
  return valued.map(({ port, value, faults }) =>
    port.kind === 'formula' && isFormula(value) ? (
      <FormulaEditor
        key={port.id}
        text={value.formula}
        faults={faults}
        inputs={callableOf(ports)}
        onChange={(formula) => {
          set(port.id, { formula }, 'Changed a formula', null);
        }}
      />
    ) : null,
  );
}
