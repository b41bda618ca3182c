/**
 * Decodes one image and is ended afterwards: a hostile file takes this thread with it and nothing
 * else.
 */
import * as Comlink from 'comlink';
import { decodeImage } from '../core/exchange/images';
import { attempt } from './answer';

const api = {
  decode: (bytes: Uint8Array) =>
    attempt(() => {
      const image = decodeImage(bytes);
      return Comlink.transfer(image, [image.pixels.buffer as ArrayBuffer]);
    }),
};
export type ImageWorker = typeof api;
Comlink.expose(api);
