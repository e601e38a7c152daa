import { parseExits, printTree } from '@/core/language';
import { movedExit } from '@/core/plans';

/**
 * The text of a plan with one of its exits at another distance, in price units a share; all else as it
 * was written. Null where it cannot be read.
 */
export function exitLines(
  text: string,
  line: number,
  units: number,
  m: { price: number; atr: number | null; perShare: number | null },
): string | null {
  const exits = movedExit(parseExits(text).exits, line, units, m);
  const lines = text.split('\n');
  const written = lines.flatMap((l, k) => (l.trim() !== '' && !l.trim().startsWith('#') ? [k] : []));
  const moved = exits[line];
  if (!moved) return null;
  if (written.length !== exits.length) return exits.map(printTree).join('\n');
  return lines.map((l, k) => (k === written[line] ? printTree(moved) : l)).join('\n');
}
