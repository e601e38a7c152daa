// Apart from the plans themselves: whoever only keeps or lists them need not read them.
import { type Exit, parseExits } from '../language/index.ts';

/** The exits of a plan; empty where its text has mistakes. */
export const exitsOf = (text: string): readonly Exit[] => parseExits(text).exits;
