// TypeScript for Jest by swc. Inside Jest's sandbox every use of a global goes through an interceptor, which makes the
// simulation many times slower; a constant of the module's own takes its place. Nothing else is changed.
import swcJest from '@swc/jest';

const swc = swcJest.createTransformer({
  jsc: {
    parser: { syntax: 'typescript', tsx: true },
    target: 'es2022',
    transform: { react: { runtime: 'automatic' } },
  },
  module: { type: 'es6' },
});
const OWN = 'const { Math, Number, Map, Set, Object, Int32Array, Float64Array, Uint8Array } = globalThis;';
const own = (out) => ({ ...out, code: `${OWN}${out.code}` });

export default {
  getCacheKey: (...args) => `${swc.getCacheKey(...args)}own`,
  process: (...args) => own(swc.process(...args)),
  processAsync: async (...args) => own(await swc.processAsync(...args)),
};
