// Properties draw the same cases each time, so that a failure is due to a change; `SEED=7 npm test` draws others.
import fc from 'fast-check';

fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: Number(process.env.SEED ?? 1) });
