'use client';
import { useDeferredValue } from 'react';
import { writePapers } from '@/core/edit/group-papers';
import type { GroupDefinition } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import { useProofSheet } from '@/state/proof-sheet';
import type { PaintedSheet } from '@/state/proof-sheet';
import { tellProblem } from '@/ui/tell-problem';
import { stores } from '@/state/stores';
import { Button } from '@/ui/Button';
import { GroupPapers } from '@/ui/papers/GroupPapers';
import { sheetImage } from '@/ui/papers/sheet-image';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { ProblemNote } from '@/ui/ProblemNote';
import { saveFile } from '@/ui/save-file';
import { Sheet } from '@/ui/Sheet';

interface Props {
  readonly group: GroupDefinition | null;
  readonly evaluation: Evaluation;
  readonly onClose: () => void;
}

/** The papers of the open group: every dial at its ends on several models, ports, equation. */
export function PapersSheet({ group, evaluation, onClose }: Props) {
  return (
    <Sheet
      open={group !== null}
      onClose={onClose}
      width={900}
      title={`Papers of ${group?.name ?? ''}`}
      description={
        'Made from the group: the proof sheet of its dials, with the share of each picture that ' +
        'is not as at home; what it takes and gives; its equation.'
      }
    >
      {group ? <Papers key={group.id} group={group} evaluation={evaluation} /> : null}
    </Sheet>
  );
}

function Papers({ group, evaluation }: Pick<Props, 'evaluation'> & { group: GroupDefinition }) {
  const painted = useProofSheet(evaluation, group);
  // The page is long: it is drawn between other things, and the bar at once.
  const drawn = useDeferredValue<PaintedSheet | null>(painted, null);
  const { document } = stores.document.getState();
  return (
    <>
      <PapersBar group={group} painted={painted} />
      {painted.problem ? <ProblemNote problem={painted.problem} className="mt-2" /> : null}
      {drawn ? (
        <GroupPapers
          document={document}
          group={group}
          sheet={drawn.sheet}
          draw={(index, label) => (
            <PictureCanvas
              picture={drawn.pictures.get(index)}
              label={label}
              className="h-full w-full"
            />
          )}
        />
      ) : null}
    </>
  );
}

function PapersBar({ group, painted }: { group: GroupDefinition; painted: PaintedSheet }) {
  const { sheet, pictures, waiting, isStopped } = painted;
  const total = sheet.shares.length;
  const savePng = async (): Promise<void> => {
    const bitmaps = new Map(
      await Promise.all(
        [...pictures].map(
          async ([index, { pixels, width, height }]) =>
            [index, await createImageBitmap(new ImageData(pixels, width, height))] as const,
        ),
      ),
    );
    const png = await sheetImage(group.name, sheet, (context, index, x, y) => {
      const bitmap = bitmaps.get(index);
      if (bitmap) context.drawImage(bitmap, x, y);
    });
    saveFile(png, `${group.name}, proof sheet.png`);
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      {waiting > 0 ? (
        <Button onClick={isStopped ? painted.resume : painted.stop}>
          {isStopped ? 'Paint it anew' : 'Stop painting'}
        </Button>
      ) : null}
      <Button
        disabled={waiting > 0 || total === 0}
        onClick={() => {
          savePng().catch(tellProblem);
        }}
      >
        Save the sheet as PNG
      </Button>
      <Button
        onClick={() => {
          const text = writePapers(stores.document.getState().document, group);
          saveFile(new Blob([text], { type: 'text/markdown' }), `${group.name}.md`);
        }}
      >
        Save the papers as text
      </Button>
      <span role="status" className="figures text-soft" data-testid="sheet-progress">
        {waiting > 0
          ? `${String(total - waiting)} of ${String(total)} pictures`
          : `${String(total)} pictures`}
      </span>
    </div>
  );
}
