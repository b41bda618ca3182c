import type { ModelId, ResultKey } from '../core/base/ids';
import { FlatReader, rayOntoTexel, rayOntoValue } from '../core/evaluate/flat-view';
import { paintShares } from '../core/evaluate/layer-stack';
import type { Camera } from '../core/evaluate/camera';
import type { BoardId } from '../core/graph/document';
import { ShadowOpacityReader } from '../core/evaluate/shadow-opacity';
import { sent } from './desk';
import type { Desk } from './desk';
import type { DocumentReference, OnDocument } from './held-documents';

/** Calls for what lies spread out over a surface, and for places found by a texel or a value. */
export function textureCalls({ models, answer }: Desk, about: OnDocument) {
  const flat = new FlatReader();
  const shadow = new ShadowOpacityReader();
  return {
    /** A result in texture space; of a surface its base colour. */
    flatValues: (id: ModelId, named: DocumentReference, key: ResultKey | null, size: number) =>
      about(named, (document) => {
        const made = flat.read(models.get(id), document, key, size);
        const { texels, lanes, seams } = made;
        return sent(made, texels.buffer, seams.buffer, ...lanes.map(({ buffer }) => buffer));
      }),
    /** The ray onto what a texel shows; null where it shows nothing. */
    rayOntoTexel: (id: ModelId, size: number, texel: number) =>
      answer(() => rayOntoTexel(models.get(id), size, texel)),
    /** The ray onto the place where a result comes nearest to a value. */
    rayOntoValue: (id: ModelId, named: DocumentReference, key: ResultKey, value: number) =>
      about(named, (document) => rayOntoValue(models.get(id), document, key, value)),
    /** Where each surface of a board is still seen through all layers, as pictures. */
    paintShares: (
      id: ModelId,
      named: DocumentReference,
      board: BoardId,
      path: readonly string[],
      camera: Camera,
      size: number,
    ) =>
      about(named, (document) => paintShares(models.get(id), document, board, path, camera, size)),
    /** What the surface stops of the light, for the shadows it throws. */
    shadowOpacity: (id: ModelId, named: DocumentReference) =>
      about(named, (document) => {
        const made = shadow.read(models.get(id), document);
        return sent(made, made.texels.buffer);
      }),
  };
}
