import { readFile } from 'node:fs/promises';
import { AppError, errorMessage } from '@/core/base/diagnostic';
import { readStoredText } from '@/core/compile/upgrade';
import { CompileError } from '@/core/compile/compile';
import type { NetworkDocument } from '@/core/graph/document';

export async function readText(file: string): Promise<string> {
  try {
    return await readFile(file, 'utf8');
  } catch (cause) {
    throw new AppError('file.unreadable', `${file} cannot be read: ${errorMessage(cause)}.`, '', {
      cause,
    });
  }
}

/** Reads a document; throws CompileError with pointers when its shape is wrong. */
export async function readDocument(file: string): Promise<NetworkDocument> {
  const parsed = readStoredText(await readText(file));
  if (!parsed.document) throw new CompileError(parsed.diagnostics);
  return parsed.document;
}
