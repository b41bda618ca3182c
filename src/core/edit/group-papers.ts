import type { Dial, GroupDefinition, GroupPort, NetworkDocument } from '../graph/document';
import { findGroupDefinition } from '../compile/catalogue';
import { boardAt, getNetwork } from './board';
import { equationText, valueText } from './equation';

const number = (value: number): string => String(Number(value.toPrecision(5)));
const KIND_WORDS = {
  scalar: 'a number per point',
  vector: 'a vector',
  colour: 'a colour',
  surface: 'a surface',
} as const;
const UNWIRED_WORDS = {
  neutral: 'what changes nothing',
  position: 'the position',
  texture: 'the texture coordinates',
  normal: 'the normal',
} as const;

/** Parts of a sentence that are there, each without a full stop of its own. */
const joined = (...parts: readonly string[]): string =>
  parts
    .map((part) => part.trim().replace(/\.$/, ''))
    .filter(Boolean)
    .join('; ');

/** What an input gives where nothing is wired to it, in words; null where nobody said. */
export function unwiredWords({ fallback, unwired }: GroupPort): string | null {
  if (fallback !== undefined) return `unwired ${valueText(fallback)}`;
  return unwired ? `unwired ${UNWIRED_WORDS[unwired]}` : null;
}

/** What an input or output is, in words. */
export function portWords(port: GroupPort): string {
  const what = port.many ? 'a list of masks' : KIND_WORDS[port.kind];
  return joined(what, unwiredWords(port) ?? '', port.help ?? '');
}

/**
 * What each input of a group gives inside the card that was entered where nothing is wired to that:
 * by the input's id, in words. Empty outside groups.
 * @param path the cards that were entered, from the outside in
 */
export function unwiredHere(
  document: NetworkDocument,
  path: readonly string[],
): Readonly<Record<string, string>> {
  const card = path.at(-1);
  const around = getNetwork(document, boardAt(document, path.slice(0, -1)));
  const node = around.nodes.find(({ id }) => id === card);
  const group = node && findGroupDefinition(document, node);
  if (!group) return {};
  const wired = new Set(
    around.strands.filter(({ to }) => to.node === card).map(({ to }) => to.input),
  );
  return Object.fromEntries(
    group.inputs
      .filter(({ id }) => !wired.has(id))
      .map((port) => [port.id, unwiredWords(port) ?? 'unwired: each input’s own']),
  );
}

/** What a dial is, in words: its help, its home, its slider and what its ends do. */
export function dialWords({ help, kind, home, soft, unit, ends, choices }: Dial): string {
  const range =
    kind === 'scalar'
      ? `home ${valueText(home)}, slider ${number(soft[0])} to ${number(soft[1])}` +
        (unit ? ` ${unit}` : '')
      : choices
        ? `one of ${choices.map(({ title }) => title).join(', ')}`
        : `home ${valueText(home)}`;
  const low = ends?.low ? `low: ${ends.low}` : '';
  const high = ends?.high ? `high: ${ends.high}` : '';
  return joined(help, range, low, high);
}

/** The dials in their sections, in the order of the front. */
export const dialSections = ({
  dials,
}: GroupDefinition): readonly { readonly title: string; readonly dials: readonly Dial[] }[] =>
  [...new Set(dials.map(({ section }) => section))].map((title) => ({
    title,
    dials: dials.filter(({ section }) => section === title),
  }));

/** The help page of a group as Markdown, made from the group itself. */
export function writePapers(document: NetworkDocument, group: GroupDefinition): string {
  const { name, description, inputs, outputs, variants = [], limits, network } = group;
  const list = (title: string, lines: readonly string[]): readonly string[] =>
    lines.length > 0 ? [`## ${title}`, '', ...lines.map((line) => `- ${line}`), ''] : [];
  return [
    `# ${name}`,
    '',
    ...(description ? [description, ''] : []),
    ...dialSections(group).flatMap((section) =>
      list(
        section.title,
        section.dials.map((dial) => `**${dial.name}**: ${dialWords(dial)}`),
      ),
    ),
    ...list(
      'Takes',
      inputs.map((port) => `**${port.name}**: ${portWords(port)}`),
    ),
    ...list(
      'Gives',
      outputs.map((port) => `**${port.name}**: ${portWords(port)}`),
    ),
    ...list(
      'Variants',
      variants.map(({ name: variant, values }) => {
        const set = group.dials
          .filter(({ id }) => values[id] !== undefined)
          .map((dial) => `${dial.name} ${valueText(values[dial.id])}`);
        return `**${variant}**: ${set.join(', ') || 'every dial home'}`;
      }),
    ),
    ...(limits ? ['## Known limits', '', limits, ''] : []),
    ...list(
      'Notes inside',
      network.notes.map(({ text }) => text.replace(/\s+/g, ' ')),
    ),
    '## Equation',
    '',
    '```',
    equationText(document, group),
    '```',
    '',
  ].join('\n');
}
