'use client';
import { toast } from 'sonner';
import { missingIn } from '@/state/file-contents';
import { placeGroupFile } from '@/state/group-files';
import { tellProblem } from '@/ui/tell-problem';
import { useAsking } from '@/ui/use-asking';

/** Puts a group that was saved as a file on the board, without the library. */
export function PlaceFile({ onPlaced }: { readonly onPlaced: () => void }) {
  const { ask, question } = useAsking();
  const place = async (file: File): Promise<void> => {
    if (!(await ask(file.name, await missingIn(file)))) return;
    const { name, missing } = await placeGroupFile(file);
    toast(`Placed ${name}.${missing.length > 0 ? ` Missing: ${missing.join('; ')}.` : ''}`);
    onPlaced();
  };
  return (
    <>
      {question}
      <label className="mb-3 block w-fit cursor-pointer text-[12px] text-soft underline">
        or place one from a file
        <input
          type="file"
          accept=".zip,application/zip"
          className="sr-only"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            event.target.value = '';
            if (file) place(file).catch(tellProblem);
          }}
        />
      </label>
    </>
  );
}
