declare module 'bunny' {
  const mesh: {
    readonly positions: readonly (readonly [number, number, number])[];
    readonly cells: readonly (readonly [number, number, number])[];
  };
  export default mesh;
}
