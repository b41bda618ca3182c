import { toast } from 'sonner';
import { saveFile } from './save-file';
import { tellProblem } from './tell-problem';

type OnProgress = (share: number) => void;

/** Does something with a file that takes a while, and says how far it is. */
export async function withProgress<T>(
  words: string,
  work: (onProgress: OnProgress) => Promise<T>,
  done: (result: T) => string,
): Promise<T> {
  const id = toast.loading(`${words} …`);
  let shown = 0;
  try {
    const result = await work((share) => {
      const percent = Math.floor(share * 100);
      if (percent === shown) return;
      shown = percent;
      toast.loading(`${words}, ${String(percent)} % …`, { id });
    });
    toast.success(done(result), { id });
    return result;
  } catch (error) {
    toast.dismiss(id);
    throw error;
  }
}

/** Fetches a file and offers it as a download; what stands in the way is told. */
export function saveWithProgress(
  name: string,
  read: (onProgress: OnProgress) => Promise<Blob>,
): void {
  withProgress(`Saving ${name}`, read, () => `Saved ${name}`).then((file) => {
    saveFile(file, name);
  }, tellProblem);
}
