'use client';
import { own } from '@/core/base/own';
import { defaultConversion } from '@/core/compile/convert';
import { findNodeDefinition, describePorts, findGroupDefinition } from '@/core/compile/catalogue';
import { quantityNote } from '@/core/compile/quantities';
import { addNode, setValue } from '@/core/edit/nodes';
import { removeAllBends } from '@/core/edit/marks';
import { getNetwork } from '@/core/edit/board';
import {
  disconnect,
  inputKind,
  insertIntoStrand,
  outputKind,
  setConversion,
  setPlain,
} from '@/core/edit/strands';
import { INPUT_EDGE, OUTPUT_EDGE } from '@/core/graph/document';
import type { Conversion, NetworkDocument, Strand, ValueKind } from '@/core/graph/document';
import { pointAtPart } from '@/state/driven';
import { useBoardFindings } from '@/state/use-findings';
import { Button } from '@/ui/Button';
import { focusBoard } from '@/ui/focus-board';
import { Choose } from '@/ui/Choose';
import { FindingNotes } from './FindingNotes';
import { commit, keyOnBoard } from '@/state/editing';
import { boardAt } from '@/core/edit/board';
import { useDocument, useResults, useView } from '@/state/use-stores';

const METHODS = [
  { value: 'luminance', title: 'Luminance' },
  { value: 'average', title: 'Average' },
  { value: 'largest', title: 'Largest' },
  { value: 'first', title: 'First (x, red)' },
  { value: 'second', title: 'Second (y, green)' },
  { value: 'third', title: 'Third (z, blue)' },
  { value: 'length', title: 'Length' },
];

function nameOf(
  document: NetworkDocument,
  board: string | null,
  nodeId: string,
  port: string,
): string {
  if (nodeId === INPUT_EDGE || nodeId === OUTPUT_EDGE) return 'the selvedge';
  const node = getNetwork(document, board).nodes.find((each) => each.id === nodeId);
  const ports = node && describePorts(document, node);
  const title =
    [...(ports?.inputs ?? []), ...(ports?.outputs ?? [])].find((each) => each.id === port)?.title ??
    port;
  const known = node && (node.name ?? findGroupDefinition(document, node)?.name);
  const shown = known ?? (node && findNodeDefinition(node)?.title) ?? nodeId;
  return `${title} of ${shown}`;
}

/** Puts a remap of 0 to 180 degrees into a strand. */
function remapDegrees(strand: Strand): void {
  commit('Remapped degrees', (current, at) => {
    const { nodes } = getNetwork(current, at);
    const [x, y] = nodes.find((each) => each.id === strand.to.node)?.at ?? [0, 0];
    const added = addNode(current, at, 'ranges.remap', [x - 170, y]);
    const remapped = setValue(added.document, at, added.id, 'inHigh', 180);
    return insertIntoStrand(remapped, at, strand.id, added.id);
  });
}
function carryPlain(strand: Strand, isPlain: boolean): void {
  commit(isPlain ? 'Carried as a plain number' : 'Carried as what it stands for', (current, at) =>
    setPlain(current, at, strand.id, isPlain),
  );
}

/**
 * What a strand does on its way: how it becomes a number, as what it arrives, and what to do where
 * its ends do not go together.
 */
export function StrandBench({ strand }: { readonly strand: Strand }) {
  const document = useDocument((state) => state.document);
  const path = useView((state) => state.path);
  const board = boardAt(document, path);
  const faults = useBoardFindings(
    ({ place, code }) => place.strand === strand.id && code !== 'strand.quantity',
  );
  return (
    <div className="flex flex-wrap items-center gap-3 p-4" data-testid="strand-bench">
      <FindingNotes findings={faults} />
      <span
        title="Pointing at this shows on the model what the strand changes"
        onPointerEnter={() => {
          pointAtPart({ part: 'strand', id: strand.id });
        }}
        onPointerLeave={() => {
          pointAtPart(null);
        }}
      >
        From {nameOf(document, board, strand.from.node, strand.from.output)} to{' '}
        {nameOf(document, board, strand.to.node, strand.to.input)}.
      </span>
      <ConversionChoice strand={strand} />
      <QuantityNote strand={strand} />
      {strand.bends ? (
        <Button
          onClick={() => {
            commit('Straightened a strand', (current, at) =>
              removeAllBends(current, at, strand.id),
            );
          }}
        >
          Remove its bends
        </Button>
      ) : (
        <span className="text-soft">Double-click it on the board to bend it.</span>
      )}
      <Button
        onClick={() => {
          commit('Removed a strand', (current, at) => disconnect(current, at, [strand.id]));
        }}
      >
        Remove the strand
      </Button>
    </div>
  );
}

/** How a colour or a vector becomes a number, where one is wanted. */
function ConversionChoice({ strand }: { readonly strand: Strand }) {
  const document = useDocument((state) => state.document);
  const path = useView((state) => state.path);
  const kinds = useResults((state) => state.kinds);
  const board = boardAt(document, path);
  const source =
    kinds.get(keyOnBoard(path, strand.from.node, strand.from.output)) ??
    outputKind(document, board, strand.from);
  const target = inputKind(document, board, strand.to);
  if (!source || !target || source === 'surface') return null;
  const fallback = defaultConversion(source as ValueKind, target);
  if (fallback === 'repeat')
    return <span className="text-soft">One number becomes three alike.</span>;
  if (source === 'scalar') return null;
  const whole = fallback === null ? [{ value: WHOLE, title: 'All three channels' }] : [];
  return (
    <span className="flex items-center gap-2">
      {fallback === null ? 'Carries' : 'Becomes a number by its'}
      <Choose
        focusAfter={focusBoard}
        label="Conversion"
        value={strand.conversion ?? fallback ?? WHOLE}
        items={[...whole, ...METHODS]}
        onChange={(method) => {
          commit('Chose what a strand carries', (current, at) =>
            setConversion(current, at, strand.id, method === WHOLE ? null : (method as Conversion)),
          );
        }}
      />
    </span>
  );
}
const WHOLE = 'whole';

/** As what a quantity arrives, and what to do where its ends do not go together. */
function QuantityNote({ strand }: { readonly strand: Strand }) {
  const document = useDocument((state) => state.document);
  const path = useView((state) => state.path);
  const board = boardAt(document, path);
  const group = board === null ? null : (own(document.groups, board) ?? null);
  const note = quantityNote(document, getNetwork(document, board), group, strand);
  return (
    <>
      {note?.formula ? (
        <span>
          {note.from} arrives as {note.to}: <span className="figures">{note.formula}</span>
        </span>
      ) : null}
      {note?.formula === null ? (
        <span role="alert" className="text-madder">
          {note.from} is not {note.to}, and nothing converts them.
        </span>
      ) : null}
      {note?.formula === null && note.from === 'degrees' ? (
        <Button
          onClick={() => {
            remapDegrees(strand);
          }}
        >
          Remap 0–180° to 0–1
        </Button>
      ) : null}
      {note ? (
        <Button
          onClick={() => {
            carryPlain(strand, true);
          }}
        >
          Carry it as a plain number
        </Button>
      ) : null}
      {strand.plain ? (
        <span className="flex items-center gap-2 text-soft">
          Carried as a plain number.{' '}
          <Button
            onClick={() => {
              carryPlain(strand, false);
            }}
          >
            Carry what it stands for
          </Button>
        </span>
      ) : null}
    </>
  );
}
