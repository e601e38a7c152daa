import { type Exit, parseExits, printTree } from '@/core/language';

/** The text of a plan after a change by hand of its exits: a line that has not changed stays as it was written. */
export function exitLines(text: string, change: (exits: readonly Exit[]) => readonly Exit[]): string {
  const { exits } = parseExits(text);
  const after = change(exits);
  const lines = text.split('\n');
  const written = lines.flatMap((l, k) => (l.trim() !== '' && !l.trim().startsWith('#') ? [k] : []));
  if (written.length !== exits.length) return after.map(printTree).join('\n');
  return lines
    .map((l, k) => {
      const i = written.indexOf(k);
      const exit = after[i];
      return exit && exit !== exits[i] ? printTree(exit) : l;
    })
    .join('\n');
}
