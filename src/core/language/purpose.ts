import type { Statement } from './tree.ts';

/** What a script is for, for its look on keys and buttons. */
export type Purpose = 'in' | 'out' | 'protect' | 'cancel' | 'size' | 'see';

const FOR: Partial<Readonly<Record<Statement['kind'], Purpose>>> = {
  enter: 'in',
  add: 'in',
  reverse: 'in',
  'one of': 'in',
  'replace last': 'in',
  'replace order': 'in',
  staged: 'in',
  close: 'out',
  flatten: 'out',
  'flatten everything': 'out',
  'move stop': 'protect',
  'move order': 'protect',
  'move all': 'protect',
  attach: 'protect',
  'attach plan': 'protect',
  'cancel last': 'cancel',
  'cancel order': 'cancel',
  'put back': 'protect',
  'cancel some': 'cancel',
  'cancel symbol': 'cancel',
  'cancel everything': 'cancel',
  size: 'size',
};

/** By its first sentence that does something to orders; of one that waits, by what it waits to do. */
export function purposeOf(statements: readonly Statement[]): Purpose {
  const all = statements
    .flatMap((s): readonly Statement[] => (s.kind === 'when' ? s.actions : [s]))
    .map((s) => FOR[s.kind] ?? 'see');
  return all.find((p) => p !== 'see') ?? 'see';
}
