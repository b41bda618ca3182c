'use client';
import { NodeResizer } from '@xyflow/react';
import type { Node, NodeProps } from '@xyflow/react';
import { changeBoard } from '@/core/edit/nodes';
import { commit } from '@/state/editing';

export type NoteNode = Node<{ text: string }, 'note'>;
export type BendNode = Node<Record<string, never>, 'bend'>;
export type RegionNode = Node<{ title: string }, 'region'>;
const bare = (id: string): string => id.replace(/^(note|region):/, '');

/** A note on the board. */
export function NoteMark({ id, data, selected }: NodeProps<NoteNode>) {
  return (
    <textarea
      aria-label="Note"
      defaultValue={data.text}
      placeholder="Write a note"
      className={
        'nodrag h-[70px] w-[170px] resize border border-dashed border-seam bg-transparent ' +
        `p-1 text-[12px] ${selected ? 'stitched' : ''}`
      }
      onKeyDown={(event) => {
        event.stopPropagation();
      }}
      onBlur={(event) => {
        const text = event.target.value;
        commit('Wrote a note', (document, board) =>
          changeBoard(document, board, (network) => ({
            ...network,
            notes: network.notes.map((note) => (note.id === bare(id) ? { ...note, text } : note)),
          })),
        );
      }}
    />
  );
}

/** A point a strand is led through; it is moved and removed like a card. */
export function BendMark({ selected }: NodeProps<BendNode>) {
  return (
    <div
      title="Bend of a strand"
      className={
        'h-[11px] w-[11px] rotate-45 border border-thread bg-panel ' + (selected ? 'stitched' : '')
      }
      data-testid="bend"
    />
  );
}

/** A titled frame behind cards. */
export function RegionMark({ id, data, selected }: NodeProps<RegionNode>) {
  return (
    <div className={`h-full w-full border border-seam bg-raised/20 ${selected ? 'stitched' : ''}`}>
      <NodeResizer
        isVisible={selected}
        minWidth={120}
        minHeight={80}
        lineClassName="!border-weld"
        onResizeEnd={(_, { x, y, width, height }) => {
          commit('Sized a region', (document, board) =>
            changeBoard(document, board, (network) => ({
              ...network,
              regions: network.regions.map((region) =>
                region.id === bare(id) ? { ...region, at: [x, y], size: [width, height] } : region,
              ),
            })),
          );
        }}
      />
      <input
        aria-label="Region title"
        defaultValue={data.title}
        className="region-title nodrag bg-transparent px-2 py-1 font-medium"
        onKeyDown={(event) => {
          event.stopPropagation();
        }}
        onBlur={(event) => {
          const title = event.target.value;
          commit('Named a region', (document, board) =>
            changeBoard(document, board, (network) => ({
              ...network,
              regions: network.regions.map((region) =>
                region.id === bare(id) ? { ...region, title } : region,
              ),
            })),
          );
        }}
      />
    </div>
  );
}
