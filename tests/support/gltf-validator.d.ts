declare module 'gltf-validator' {
  interface Report {
    readonly issues: {
      readonly numErrors: number;
      readonly messages: readonly {
        readonly code: string;
        readonly message: string;
        readonly severity: number;
      }[];
    };
  }
  const validator: { validateBytes(bytes: Uint8Array): Promise<Report> };
  export default validator;
}
