/**
 * Reads the files it is sent, one after the other, and says what came of each. Ended by whoever
 * watches it.
 */
import { AppError } from '@/core/base/diagnostic';
import { decodeImage } from '@/core/exchange/images';
import { readModel } from '@/core/exchange/read-model';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { diagnose } from '@/core/mesh/diagnose';

export interface ReadOrder {
  readonly kind: 'image' | 'model';
  readonly bytes: Uint8Array<ArrayBuffer>;
}
export interface ReadReply {
  /** Whether it was read, refused in words, or ended in an error that says nothing to a person. */
  readonly outcome: 'read' | 'refused' | 'crashed';
  readonly message: string;
}

async function read({ kind, bytes }: ReadOrder): Promise<void> {
  const own = new Uint8Array(bytes);
  if (kind === 'image') {
    decodeImage(own);
    return;
  }
  const { mesh } = await readModel(own, 'drill');
  diagnose(mesh);
  new MeshAnalysis(mesh).quickMap({ kind: 'curvature', radius: mesh.size * 0.03 }, 64);
}

process.on('message', (order: ReadOrder) => {
  read(order).then(
    () => process.send?.({ outcome: 'read', message: '' } satisfies ReadReply),
    (error: unknown) => {
      const message = error instanceof Error ? `${error.name}: ${error.message}` : String(error);
      const outcome = error instanceof AppError ? 'refused' : 'crashed';
      process.send?.({ outcome, message } satisfies ReadReply);
    },
  );
});
console.warn = () => undefined;
console.error = () => undefined;
