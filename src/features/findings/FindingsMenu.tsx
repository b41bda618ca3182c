'use client';
import { own } from '@/core/base/own';
import { Popover } from 'radix-ui';
import { describePorts, findNodeDefinition } from '@/core/compile/catalogue';
import { getNetwork } from '@/core/edit/board';
import { wayTo } from '@/core/graph/finding-place';
import type { FindingPlace } from '@/core/graph/finding-place';
import type { NetworkDocument, NodeInstance } from '@/core/graph/document';
import { openFindings } from '@/state/use-findings';
import type { PlacedFinding } from '@/state/findings-state';
import { cureFinding, cureTitle, goToFinding, useFindings } from '@/state/use-findings';
import { Button } from '@/ui/Button';
import { useDocument } from '@/state/use-stores';
import { titleInList } from '@/core/compile/told-apart';

const plural = (count: number, word: string): string =>
  `${String(count)} ${word}${count === 1 ? '' : 's'}`;

/** “2 errors, 1 warning”: what the list holds, most serious first. */
function summaryOf(findings: readonly PlacedFinding[]): string {
  const count = (severity: PlacedFinding['severity']): number =>
    findings.filter((finding) => finding.severity === severity).length;
  const [errors, warnings, notes] = [count('error'), count('warning'), count('note')];
  return [
    errors > 0 ? plural(errors, 'error') : '',
    warnings > 0 ? plural(warnings, 'warning') : '',
    notes > 0 ? plural(notes, 'note') : '',
  ]
    .filter(Boolean)
    .join(', ');
}

/** What is wrong with the open document, in one list that leads to each place. */
export function FindingsMenu() {
  const findings = useFindings((state) => state.findings);
  const failure = useFindings((state) => state.failure);
  const open = useFindings((state) => state.isListOpen);
  if (findings.length === 0 && failure === null) return null;
  const isSerious = findings.some(({ severity }) => severity === 'error');
  return (
    <Popover.Root open={open} onOpenChange={openFindings}>
      <Popover.Trigger asChild>
        <button
          type="button"
          data-testid="findings"
          className={
            'shrink-0 rounded-[2px] border px-2 py-0.5 text-[12px] ' +
            (isSerious ? 'border-madder text-madder' : 'border-seam text-ink')
          }
        >
          {findings.length > 0 ? summaryOf(findings) : 'Not checked'}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="What is wrong with this material"
          className={
            'z-40 max-h-[60vh] w-[460px] overflow-auto border border-line bg-panel p-2 ' +
            'text-ink shadow-xl'
          }
        >
          {failure === null ? null : (
            <p role="alert" className="mb-1 text-[12px] text-madder">
              The material could not be checked; it is checked again after the next edit.
            </p>
          )}
          <ol data-testid="findings-list">
            {findings.map((finding, k) => (
              <FindingRow
                key={`${finding.pointer} ${finding.code} ${String(k)}`}
                finding={finding}
              />
            ))}
          </ol>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const KINDS = { error: 'Error', warning: 'Warning', note: 'Note' } as const;

function FindingRow({ finding }: { readonly finding: PlacedFinding }) {
  const document = useDocument((state) => state.document);
  const isReachable = wayTo(document, finding.place.board) !== null;
  const cure = cureTitle(finding);
  return (
    <li className="border-b border-line py-1 last:border-0">
      <button
        type="button"
        disabled={!isReachable}
        data-code={finding.code}
        data-pointer={finding.pointer}
        className="block w-full px-1 text-left text-[12px] hover:bg-raised"
        onClick={() => {
          goToFinding(finding);
        }}
      >
        <span
          className={`font-semibold ${finding.severity === 'error' ? 'text-madder' : 'text-ink'}`}
        >
          {KINDS[finding.severity]} at {placeName(document, finding)}
        </span>
        <span className="block">{finding.message}</span>
        {isReachable ? null : (
          <span className="block text-soft">No card leads there: nothing uses this group.</span>
        )}
      </button>
      {cure === null ? null : (
        <Button
          className="mt-0.5 ml-1"
          onClick={() => {
            cureFinding(finding);
          }}
        >
          {cure}
        </Button>
      )}
    </li>
  );
}

/** “Scale of Noise, in Frost”: where a finding is, in the artist's names. */
function placeName(document: NetworkDocument, { place }: PlacedFinding): string {
  const group = place.board === null ? undefined : own(document.groups, place.board);
  const part = partName(document, place);
  if (part === null) return group ? `the group ${group.name}` : 'the material';
  return group ? `${part}, in ${group.name}` : part;
}

function partName(document: NetworkDocument, place: FindingPlace): string | null {
  const { board, dial, stop, strand, input, output, option } = place;
  const network = getNetwork(document, board);
  const node = network.nodes.find((each) => each.id === place.node);
  const title = node ? titleInList(document, network, node) : place.node;
  if (dial !== undefined && board !== null) {
    const dials = own(document.groups, board)?.dials ?? [];
    return `the dial ${dials.find(({ id }) => id === dial)?.name ?? dial}`;
  }
  if (title === undefined) return strand === undefined ? null : `the strand ${strand}`;
  if (stop !== undefined) return `a stop of ${title}`;
  const port = input ?? output ?? option;
  const shown = node && port !== undefined ? portTitle(document, node, port) : port;
  if (strand !== undefined) return `the strand at ${shown ?? 'a port'} of ${title}`;
  return shown === undefined ? title : `${shown} of ${title}`;
}

function portTitle(document: NetworkDocument, node: NodeInstance, id: string): string {
  const ports = describePorts(document, node);
  const known = [...(ports?.inputs ?? []), ...(ports?.outputs ?? [])].find(
    (port) => port.id === id,
  );
  return known?.title ?? own(findNodeDefinition(node)?.options, id)?.title ?? id;
}
