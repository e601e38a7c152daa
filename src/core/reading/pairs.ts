import type { OrderTree, Statement, TreeOf } from '../language/index.ts';
import type { NewIntent } from '../orders/index.ts';
import { type Reading, Refused, type RunContext, refuse } from './moment.ts';

/** Two orders of which a fill of one takes as much from the other. Each is read as it would be alone. */
export function readOneOf(
  s: TreeOf<'one of'>,
  c: RunContext,
  out: Reading,
  read: (s: Statement, c: RunContext) => Reading,
): void {
  const legs = s.of.map((order) => legOf(order, c, read));
  const [a, b] = legs;
  if (!a || !b) return;
  out.symbol = a.reading.symbol;
  out.addsRisk = a.reading.addsRisk || b.reading.addsRisk;
  out.facts = a.reading.facts ?? b.reading.facts;
  out.named.push(...a.reading.named, ...b.reading.named);
  out.warnings.push(...new Set([...a.reading.warnings, ...b.reading.warnings]));
  const indented = (r: Reading) => `\n  ${r.sayBack.replaceAll('\n', '\n  ')}`;
  out.sayBack = `one of${indented(a.reading)}${indented(b.reading)}`;
  out.about = 'a fill of one takes as much from the other';
  out.deeds.push({ kind: 'intent', intent: { kind: 'pair', of: [a.intent, b.intent] } });
  for (const [nth, { reading }] of [a, b].entries())
    out.deeds.push(...reading.deeds.flatMap((d) => (d.kind === 'chain' ? [{ ...d, nth }] : [])));
}

function legOf(
  order: OrderTree,
  c: RunContext,
  read: (s: Statement, c: RunContext) => Reading,
): { reading: Reading; intent: NewIntent } {
  if (order.staged) refuse({ code: 'not in a pair', what: 'a staged order' });
  const reading = read(order, { ...c, admit: () => null });
  if (reading.problem) throw new Refused(reading.problem.reason, []);
  const [deed] = reading.deeds;
  if (deed?.kind === 'intent' && (deed.intent.kind === 'entry' || deed.intent.kind === 'close'))
    return { reading, intent: deed.intent };
  return refuse({ code: 'not in a pair', what: 'a trailing close' }, order);
}
