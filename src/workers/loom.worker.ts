import * as Comlink from 'comlink';
import { makeLoomApi } from './loom-api';

const loadDraco = async (): Promise<ArrayBuffer> =>
  (await fetch(new URL('draco3d/draco_decoder.wasm', import.meta.url))).arrayBuffer();

Comlink.expose(makeLoomApi(loadDraco));
