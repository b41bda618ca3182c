/**
 * Compiles TypeScript for Jest, with the globals that computations use as constants of each module.
 * A sandbox answers for every look-up of a global by a call: `Math` alone made numeric tests up to
 * fifteen times slower than they are outside of it.
 */
const { createHash } = require('node:crypto');
const { createTransformer } = require('@swc/jest');

const NAMES = [
  'Array',
  'ArrayBuffer',
  'BigInt',
  'DataView',
  'Float32Array',
  'Float64Array',
  'Infinity',
  'Int32Array',
  'Map',
  'Math',
  'NaN',
  'Number',
  'Object',
  'Set',
  'String',
  'Uint16Array',
  'Uint32Array',
  'Uint8Array',
  'Uint8ClampedArray',
];
const transformer = createTransformer({
  jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true } },
  module: { type: 'es6' },
});

/** On the line that is there: lines of messages stay right. */
function withConstants({ code, ...rest }) {
  const used = NAMES.filter((name) => new RegExp(`\\b${name}\\b`).test(code));
  const isDeclared = (name) =>
    new RegExp(`(?:class|function|const|let|type|import)\\s+(?:\\{[^}]*\\b)?${name}\\b`).test(code);
  const names = used.filter((name) => !isDeclared(name));
  return {
    ...rest,
    code: names.length > 0 ? `const{${names.join(',')}}=globalThis;${code}` : code,
  };
}

module.exports = {
  ...transformer,
  getCacheKey: (...given) =>
    createHash('sha1')
      .update(NAMES.join())
      .update(transformer.getCacheKey(...given))
      .digest('hex'),
  process: (...given) => withConstants(transformer.process(...given)),
  processAsync: async (...given) => withConstants(await transformer.processAsync(...given)),
};
