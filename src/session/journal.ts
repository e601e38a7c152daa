// The day journal: every entry of the log as lines that can be read, searched and exported.
import type { JournalKind, JournalLine } from '../core/formats/index.ts';
import { oneLine } from '../core/language/index.ts';
import { eventText, type OrderEvent } from '../core/orders/index.ts';
import { formatMoney } from '../core/units/index.ts';
import type { LogEntry, SessionInput } from './log.ts';

type Line = Omit<JournalLine, 'seq' | 'nth' | 'at'>;
const plain = (kind: JournalKind, text: string, symbol = ''): Line => ({
  kind,
  account: '',
  symbol,
  order: null,
  status: '',
  exec: '',
  text,
});

/** Everything that a log tells, oldest first. */
export const journalOf = (log: readonly LogEntry[]): JournalLine[] =>
  log.flatMap((entry) => linesOf(entry).map((line, nth) => ({ seq: entry.seq, nth, at: entry.at, ...line })));

function linesOf(entry: LogEntry): Line[] {
  const out: Line[] = [];
  if (entry.input) out.push(...askedBy(entry.input));
  if (entry.fired) {
    const { of, id, symbol, seen } = entry.fired;
    const over = of === 'condition' ? 'its time is over' : 'what was to follow does not go';
    const came = entry.fired.came === '' ? over : entry.fired.came.replaceAll(/\n */g, ', ');
    const what =
      of === 'condition' ? `condition ${id}${seen ? ` (${seen})` : ''}` : seen || `order ${id} filled`;
    out.push(plain('condition', `${what}: ${came}`, symbol));
  }
  if (entry.problem !== undefined) out.push(plain('refused', entry.problem, symbolOf(entry.input)));
  out.push(...entry.events.map(lineOf));
  return out;
}

const symbolOf = (input: SessionInput | null): string => (input?.kind === 'run' ? (input.focus ?? '') : '');

function askedBy(input: SessionInput): Line[] {
  switch (input.kind) {
    case 'run':
      return [plain('asked', oneLine(input.text), input.focus ?? '')];
    case 'alert':
      return [plain('setup', `alert ${input.id}: ${input.change.kind}`)];
    case 'set risk unit':
      return [plain('setup', `1R is ${formatMoney(input.dollars * 10_000)}`)];
    case 'plans':
      return [plain('setup', `plans and usual distances are set up: ${input.book.plans.length} plans`)];
    case 'account':
      return [plain('guard', `account “${input.rules.name}”: rules, guards and fees are set up`)];
    case 'line':
      return [plain('setup', 'the line to the exchange is changed')];
    case 'lock':
      return [plain('guard', 'the daily loss was reached on this day before: its lock holds')];
    case 'others':
      return [];
    case 'next day':
      return [plain('setup', 'the next day begins')];
  }
}

const BY_ITSELF = new Set(['average', 'breakeven', 'trail', 'works']);

function kindOf(e: OrderEvent): JournalKind {
  if (e.kind === 'fill') return 'filled';
  if (e.kind === 'locked') return 'guard';
  if (e.kind === 'triggered') return 'moved by itself';
  if (e.kind === 'moved' && typeof e.why === 'string' && BY_ITSELF.has(e.why)) return 'moved by itself';
  return e.kind === 'rejected' ? 'refused' : 'answered';
}

function lineOf(e: OrderEvent): Line {
  return {
    kind: kindOf(e),
    account: e.account,
    symbol: e.symbol,
    order: e.orderId,
    status: e.status ?? '',
    exec: e.exec,
    text: eventText(e),
  };
}
