import type { Reading } from '../grammar.ts';
import { SLIPS } from './slips.ts';
import { SPELLINGS } from './spellings.ts';

/** Everything that is read and never printed. */
export const READINGS: readonly Reading[] = [...SLIPS, ...SPELLINGS];
