import { writeFile } from 'node:fs/promises';
import { AppError, errorMessage } from '@/core/base/diagnostic';

/** Writes a file; a full disk or a folder that may not be written to is said as such. */
export async function writeOut(file: string, bytes: Uint8Array): Promise<void> {
  try {
    await writeFile(file, bytes);
  } catch (cause) {
    throw new AppError(
      'file.unwritable',
      `${file} cannot be written: ${errorMessage(cause)}.`,
      'Files written before it are complete. Make room and run it again.',
      { cause },
    );
  }
}
