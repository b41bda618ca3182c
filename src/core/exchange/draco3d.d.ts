declare module 'draco3d' {
  const draco: {
    createDecoderModule(options?: { wasmBinary?: ArrayBuffer }): Promise<unknown>;
    createEncoderModule(options?: object): Promise<unknown>;
  };
  export default draco;
}
