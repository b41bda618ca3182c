import { own } from '@/core/base/own';
import type { ReleaseView } from '@/contract/library';
import { shortNumber } from '@/ui/NumberField';
import { ShownValue } from '@/ui/ShownValue';

/** The dials of a release with their homes, ranges and what their ends do. */
export function FrontTable({ release }: { readonly release: ReleaseView }) {
  const group = own(release.groups.definitions, release.groups.root);
  if (release.fault !== null)
    return (
      <p role="alert" className="text-madder">
        {release.fault}
      </p>
    );
  if (!group) return null;
  return (
    <table className="w-full border-collapse text-[13px]">
      <caption className="sr-only">Front</caption>
      <thead>
        <tr className="border-b border-line text-left text-soft">
          <th className="py-1 font-normal">Dial</th>
          <th className="font-normal">Home</th>
          <th className="font-normal">Slider</th>
          <th className="font-normal">What its ends do</th>
        </tr>
      </thead>
      <tbody>
        {group.dials.map((dial) => (
          <tr key={dial.id} className="border-b border-line">
            <td className="py-1">{dial.name}</td>
            <td className="figures">
              <ShownValue value={dial.home} isColour={dial.kind === 'colour'} />
            </td>
            <td className="figures">
              {dial.kind === 'scalar'
                ? `${shortNumber(dial.soft[0])} – ${shortNumber(dial.soft[1])}`
                : ''}
            </td>
            <td className="text-soft">{dial.help}</td>
          </tr>
        ))}
        <tr>
          <td className="py-1 text-soft">Takes</td>
          <td colSpan={3}>
            {group.inputs.map((port) => `${port.name} (${port.kind})`).join(', ') || 'nothing'}
          </td>
        </tr>
        <tr>
          <td className="py-1 text-soft">Gives</td>
          <td colSpan={3}>
            {group.outputs.map((port) => `${port.name} (${port.kind})`).join(', ')}
          </td>
        </tr>
      </tbody>
    </table>
  );
}
