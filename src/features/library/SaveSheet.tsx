'use client';
import { placeOnSheet } from '@/core/evaluate/proof-sheet';
import type { ProofSheet } from '@/core/evaluate/proof-sheet';
import { Button } from '@/ui/Button';
import { sheetImage } from '@/ui/papers/sheet-image';
import { saveFile } from '@/ui/save-file';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly name: string;
  readonly version: string;
  readonly sheet: ProofSheet;
  /** Of the one picture that holds all pictures of the sheet. */
  readonly hash: string;
}

/** Saves the proof sheet of a release, with its titles and figures, as one PNG. */
export function SaveSheet({ name, version, sheet, hash }: Props) {
  const save = async (): Promise<void> => {
    const all = new Image();
    all.src = `/api/blobs/${hash}`;
    await all.decode();
    const { size } = sheet;
    const png = await sheetImage(`${name} ${version}`, sheet, (context, index, x, y) => {
      const from = placeOnSheet(index, size);
      context.drawImage(all, from.x, from.y, size, size, x, y, size, size);
    });
    saveFile(png, `${name} ${version}, proof sheet.png`);
  };
  return (
    <Button
      onClick={() => {
        save().catch(tellProblem);
      }}
    >
      Save the sheet as PNG
    </Button>
  );
}
