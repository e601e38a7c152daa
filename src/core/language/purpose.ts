import { formOf } from './forms/index.ts';
import type { Purpose, Task } from './grammar.ts';
import type { Statement } from './tree.ts';

/** What the sentences of a task are for, where their form does not say otherwise. */
const FOR: Partial<Readonly<Record<Task, Purpose>>> = {
  Enter: 'in',
  Exit: 'out',
  'Move a stop or an order': 'protect',
  Protect: 'protect',
  Cancel: 'cancel',
  Size: 'size',
};

/** By its first sentence that does something to orders; of one that waits, by what it waits to do. */
export function purposeOf(statements: readonly Statement[]): Purpose {
  const all = statements
    .flatMap((s): readonly { kind: Statement['kind'] | 'tell' }[] => (s.kind === 'when' ? s.actions : [s]))
    .map(({ kind }) => {
      const { task, purpose } = formOf(kind);
      return purpose ?? (task && FOR[task]) ?? 'see';
    });
  return all.find((p) => p !== 'see') ?? 'see';
}
