import type { Reading } from '../grammar.ts';
import type { Tree } from '../tree.ts';

/** Declares a reading with the fields that its parts give. */
export const reading = <F>(
  r: Omit<Reading, 'becomes' | 'wrong'> & {
    becomes: (fields: F) => Tree | null;
    wrong?: (fields: F, print: (t: Tree) => string) => ReturnType<NonNullable<Reading['wrong']>>;
  },
): Reading => r as unknown as Reading;
