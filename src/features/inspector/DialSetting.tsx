'use client';
import { rampModes } from '@/core/compile/uniforms';
import { isChoice, isCurve, isFormula, isImage, isRamp, isTriple } from '@/core/graph/document';
import { Choose } from '@/ui/Choose';
import { ColourField } from '@/ui/ColourField';
import { ShownValue } from '@/ui/ShownValue';
import type { SettingProps } from '@/ui/setting-props';
import { CurveEditor } from './CurveEditor';
import { ImageChoice } from './ImageField';
import { NumberEditor, TripleEditor } from './NumberEditors';
import { FormulaEditor } from './formula/FormulaEditor';
import { RampEditor } from './ramp/RampEditor';

/** The value of a dial, set as what it is: a slider, a ball, a colour, a choice, a ramp, a file. */
export function DialSetting(props: SettingProps) {
  const { view, value, onChange, onDone } = props;
  if (typeof value === 'number')
    return <NumberEditor port={view} value={value} onChange={onChange} onDone={onDone} />;
  if (isTriple(value))
    return view.kind === 'colour' ? (
      <ColourField
        label={view.title}
        value={value}
        onChange={(next) => {
          onChange(next, `value ${view.id}`);
        }}
        onDone={onDone}
      />
    ) : (
      <TripleEditor port={view} value={value} onChange={onChange} onDone={onDone} />
    );
  if (isChoice(value))
    return (
      <Choose
        label={view.title}
        value={value.choice}
        items={(view.dial?.choices ?? []).map((each) => ({ ...each }))}
        onChange={(choice) => {
          onChange({ choice }, null);
        }}
      />
    );
  if (isImage(value))
    return (
      <ImageChoice
        title={view.title}
        value={value}
        onChoose={(image) => {
          onChange(image, null);
        }}
      />
    );
  return <ShapeSetting {...props} />;
}

/** A ramp, a curve or a formula: a few words, and its whole editor when it is opened. */
function ShapeSetting(props: SettingProps) {
  return (
    <details className="w-full">
      <summary className="min-h-[24px] cursor-pointer text-[12px]">
        <ShownValue value={props.value} isColour={false} />
      </summary>
      <ShapeEditor {...props} />
    </details>
  );
}

function ShapeEditor({ view, group, path, value, onChange, onDone }: SettingProps) {
  const gesture = (step: string | null): string | null => step && `value ${view.id} ${step}`;
  const [drive] = view.dial?.drives ?? [];
  const node = group.network.nodes.find(({ id }) => id === drive?.node);
  if (isRamp(value) && node)
    return (
      <RampEditor
        ramp={value}
        modes={rampModes(node)}
        domain={null}
        watched={{ path: [...path, node.id], input: 'value' }}
        histogram={null}
        faults={[]}
        sources={() => []}
        onDone={onDone}
        onChange={(next, step) => {
          onChange(next, gesture(step));
        }}
      />
    );
  if (isCurve(value))
    return (
      <CurveEditor
        title={view.title}
        curve={value}
        histogram={null}
        onDone={onDone}
        onChange={(next, step) => {
          onChange(next, gesture(step));
        }}
      />
    );
  return isFormula(value) ? (
    <FormulaEditor
      text={value.formula}
      faults={[]}
      inputs={[]}
      onChange={(formula) => {
        onChange({ formula }, null);
      }}
    />
  ) : null;
}
