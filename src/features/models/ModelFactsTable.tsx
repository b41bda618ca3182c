'use client';
import type { ReactNode } from 'react';
import type { Examination } from '@/state/model-examination';
import { Choose } from '@/ui/Choose';

interface Props {
  readonly examination: Examination;
  readonly mayMend: boolean;
  /** What one unit is, metres, or whether Z points up. */
  readonly onPlace: (placed: { readonly unit?: number; readonly zUp?: boolean }) => void;
}

const UNITS = [
  ['1', 'metre'],
  ['0.01', 'centimetre'],
  ['0.001', 'millimetre'],
  ['0.0254', 'inch'],
  ['0.3048', 'foot'],
] as const;

/** A length with a unit that fits it, three digits. */
export function lengthText(metres: number): string {
  const [unit, scale]: readonly [string, number] =
    metres >= 1000
      ? ['km', 1e-3]
      : metres >= 1 || metres === 0
        ? ['m', 1]
        : metres >= 0.01
          ? ['cm', 100]
          : ['mm', 1000];
  return `${String(Number((metres * scale).toPrecision(3)))} ${unit}`;
}

/** What a model is: counts, true size, unit and axis, parts and attributes. */
export function ModelFactsTable({
  examination: { diagnosis, preparation, bytes, format },
  mayMend,
  onPlace,
}: Props) {
  const rows: readonly (readonly [string, string])[] = [
    ['Triangles', diagnosis.triangles.toLocaleString('en')],
    ['Vertices', diagnosis.vertices.toLocaleString('en')],
    ['File', `${format}, ${(bytes / 1024).toLocaleString('en', { maximumFractionDigits: 0 })} KB`],
    ['True size', diagnosis.extent.map(lengthText).join(' × ')],
    ['Object size', `${lengthText(diagnosis.size)}, the diameter around it`],
    ['Parts', names(diagnosis.parts)],
    [
      'Attributes',
      diagnosis.attributes.length === 0
        ? 'none'
        : names(diagnosis.attributes.map(({ name, width }) => `${name} (${String(width)})`)),
    ],
  ];
  return (
    <section aria-label="What it is">
      <h3 className="mb-1 font-semibold">What it is</h3>
      <table className="w-full text-left align-top">
        <tbody>
          {rows.map(([name, value]) => (
            <tr key={name} className="border-t border-line">
              <th scope="row" className="py-0.5 pr-3 align-top font-normal text-soft">
                {name}
              </th>
              <td className="figures py-0.5 text-[12px]">{value}</td>
            </tr>
          ))}
          <UnitRow unit={String(preparation.unit ?? 1)} mayMend={mayMend} onPlace={onPlace} />
          <AxisRow isZUp={preparation.zUp === true} mayMend={mayMend} onPlace={onPlace} />
        </tbody>
      </table>
    </section>
  );
}

function ChoiceRow({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <tr className="border-t border-line">
      <th scope="row" className="py-1 font-normal text-soft">
        {title}
      </th>
      <td>{children}</td>
    </tr>
  );
}

type Placing = Pick<Props, 'mayMend' | 'onPlace'>;
function UnitRow({ unit, mayMend, onPlace }: Placing & { readonly unit: string }) {
  return (
    <ChoiceRow title="A unit of the file is a">
      {mayMend ? (
        <Choose
          label="Unit of the file"
          value={unit}
          items={UNITS.map(([value, title]) => ({ value, title }))}
          onChange={(value) => {
            onPlace({ unit: Number(value) });
          }}
        />
      ) : (
        (UNITS.find(([value]) => value === unit)?.[1] ?? `${unit} m`)
      )}
    </ChoiceRow>
  );
}

const AXES = [
  { value: 'y', title: 'Y' },
  { value: 'z', title: 'Z' },
];
function AxisRow({ isZUp, mayMend, onPlace }: Placing & { readonly isZUp: boolean }) {
  const axis = isZUp ? 'z' : 'y';
  return (
    <ChoiceRow title="Up in the file is">
      {mayMend ? (
        <Choose
          label="Axis that points up"
          value={axis}
          items={AXES}
          onChange={(value) => {
            onPlace({ zUp: value === 'z' });
          }}
        />
      ) : (
        axis.toUpperCase()
      )}
    </ChoiceRow>
  );
}

const MOST_NAMES = 12;
const names = (list: readonly string[]): string =>
  `${String(list.length)}: ` +
  `${list.slice(0, MOST_NAMES).join(', ')}${list.length > MOST_NAMES ? ' …' : ''}`;
