import { contractsIn, isOption } from '@/core/instruments';
import { instrumentName, type OffsetTree, type PriceTree, parseScript, printScript } from '@/core/language';
import { CENT } from '@/core/units';

const isVertical = (symbol: string): boolean => /\/|\bwide\b/.test(symbol) || contractsIn(symbol) === 2;

/** A step of a ticket's limit: a cent; of a single option, whose steps its class decides, a tick. */
function stepOf(symbol: string | null): OffsetTree {
  return symbol !== null && isOption(symbol) && !isVertical(symbol)
    ? { kind: 'ticks', ticks: 1 }
    : { kind: 'cents', units: CENT };
}

const sizeOf = (o: OffsetTree): number | null =>
  o.kind === 'cents' || o.kind === 'dollars' ? o.units : o.kind === 'ticks' ? o.ticks : null;

/** A price one step further up or down: a number by the step, anything else by what is added to it. */
function stepped(p: PriceTree, way: 1 | -1, step: OffsetTree): PriceTree | null {
  const by = sizeOf(step) as number;
  if (p.kind === 'number' && step.kind !== 'ticks') {
    const price = p.price + way * by;
    return price > 0 ? { ...p, price: price as typeof p.price } : null;
  }
  const last = p.kind === 'sum' ? p.shifts[p.shifts.length - 1] : undefined;
  if (p.kind !== 'sum' || !last || last.by.kind !== step.kind)
    return p.kind === 'sum'
      ? { ...p, shifts: [...p.shifts, { kind: way === 1 ? 'plus' : 'minus', by: step }] }
      : { kind: 'sum', base: p as never, shifts: [{ kind: way === 1 ? 'plus' : 'minus', by: step }] };
  const before = p.shifts.slice(0, -1);
  const units = (last.kind === 'plus' ? 1 : -1) * (sizeOf(last.by) as number) + way * by;
  if (units === 0) return before.length === 0 ? p.base : { ...p, shifts: before };
  const size =
    step.kind === 'ticks'
      ? { kind: 'ticks' as const, ticks: Math.abs(units) }
      : { kind: 'cents' as const, units: Math.abs(units) };
  return { ...p, shifts: [...before, { kind: units > 0 ? 'plus' : 'minus', by: size }] };
}

/** The ticket with the limit of its first order one step higher or lower; null where it has none. */
export function stepLimit(text: string, way: 1 | -1): string | null {
  const script = parseScript(text);
  const [first, ...rest] = script.statements;
  if (!first || script.problems.length > 0) return null;
  const order = first.kind === 'when' ? first.actions[0] : first;
  if (!order || !('pricing' in order) || order.pricing?.kind !== 'limit') return null;
  const price = stepped(
    order.pricing.price,
    way,
    stepOf(order.instrument && instrumentName(order.instrument)),
  );
  if (price === null) return null;
  const next = { ...order, pricing: { ...order.pricing, price } };
  const statement = first.kind === 'when' ? { ...first, actions: [next, ...first.actions.slice(1)] } : next;
  return printScript({ ...script, statements: [statement, ...rest] as typeof script.statements });
}
