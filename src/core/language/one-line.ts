import { beginningsOf } from './rules.ts';

/** A sentence on one line, to be shown: exits behind commas, the lines of a block apart from one another. It is not meant to be read again. */
export function oneLine(text: string): string {
  return text
    .split('\n')
    .map((line) => line.trim())
    .reduce((all, line) => {
      if (all === '') return line;
      const isExit = beginningsOf('exit').has(line.split(' ')[0] ?? '');
      return `${all}${all.endsWith(':') ? ' ' : isExit ? ', ' : ' · '}${line}`;
    }, '');
}
