// Sentences of the trader: read against this moment, and done through the circuit.
import { MAIN } from '../core/account/index.ts';
import { setAlert } from '../core/alerts/index.ts';
import { lastFinishedBar, lastPremarketBar, openingRange, vwapOf } from '../core/market/index.ts';
import { admit, averageEntry, eventText, holdingOf, liveOrders, type OrderEvent, openTrade, refusalText, stopPriceOf, wireOf } from '../core/orders/index.ts';
import { sift } from '../core/scan/index.ts';
import { explain, parseScript, type Reading, type RunContext, readStatement, type SymbolView } from '../core/script/index.ts';
import { brokerContext, type Engine, feed } from './circuit.ts';
import { gotOf } from './got.ts';
import type { Deed, SessionInput } from './log.ts';
import { marketView, sceneOf } from './view.ts';

/** What running a script came to. */
export interface RunResult {
  ok: boolean;
  /** What was done, one say-back a line. */
  done: string[];
  /** What was traded at once, one order a line, with the price it got. */
  got: string[];
  /** What trades that it ended came to. */
  ended: string[];
  /** Session time at which it ran. */
  at: number;
  /** Why it stopped, when it did. */
  problem: string | null;
  warnings: string[];
}

/** What an input came to that needs no more words. */
export const DONE: RunResult = { ok: true, done: [], got: [], ended: [], at: 0, problem: null, warnings: [] };

export interface Ran {
  result: RunResult;
  deeds: Deed[];
}

/** Reads a script line by line against this moment, and does what it asks. */
export function runScript(e: Engine, input: Extract<SessionInput, { kind: 'run' }>, events: OrderEvent[]): Ran {
  const { script, problems } = parseScript(input.text);
  const wrong = problems[0];
  if (wrong) return { result: { ...DONE, ok: false, problem: explain(wrong) }, deeds: [] };
  const result: RunResult = { ...DONE, done: [], warnings: [] };
  const deeds: Deed[] = [];
  for (const line of script.lines) {
    const problem = runLine(e, line.statement, input, events, deeds, result);
    if (problem === null) continue;
    result.ok = false;
    result.problem = problem;
    break;
  }
  result.got = gotOf(events);
  result.warnings.push(...unanswered(e, deeds));
  result.ended = events.filter((x) => x.kind === 'trade over').map(eventText);
  return { result, deeds };
}

/** What was asked and could not be sent, or has not been answered, is not done yet. */
function unanswered({ state: { broker } }: Engine, deeds: readonly Deed[]): string[] {
  const sent = deeds.some((d) => d.kind === 'intent');
  if (sent && !broker.linked) return ['The line to the exchange is cut: this waits here and goes when the line stands again.'];
  const waits = sent && liveOrders(broker).some((o) => wireOf(o)?.pending);
  return waits ? ['Waits for the exchange’s answer.'] : [];
}

/** @returns why it was not done. What lines before it did stands, also when this one fails for a reason that only a bug can cause. */
function runLine(
  e: Engine,
  statement: Parameters<typeof readStatement>[0],
  input: Extract<SessionInput, { kind: 'run' }>,
  events: OrderEvent[],
  deeds: Deed[],
  result: RunResult,
): string | null {
  try {
    const reading = readStatement(statement, runContext(e, input.focus, input.cursor ?? null));
    const refused = reading.problems[0];
    if (refused) return refused.text;
    const asked: Deed[] = reading.intents.map((intent) => ({ kind: 'intent', intent }));
    if (reading.alert) asked.push({ kind: 'alert', asked: reading.alert, text: reading.sayBack });
    for (const deed of asked) {
      const no = perform(e, deed, events);
      deeds.push(deed);
      if (no !== null) return no;
    }
    result.done.push(reading.sayBack);
    result.warnings.push(...reading.warnings);
    return null;
  } catch (err) {
    return `This line could not be worked out: ${err instanceof Error ? err.message : String(err)}. Nothing of it was sent.`;
  }
}

function perform(e: Engine, deed: Deed, events: OrderEvent[]): string | null {
  if (deed.kind === 'intent') {
    if (deed.intent.kind === 'entry') e.market.watch(deed.intent.symbol);
    const refused = feed(e, deed, events);
    return refused && refusalText(refused);
  }
  const { symbol, on } = deed.asked;
  if (on.kind === 'price' && symbol !== null) e.market.watch(symbol);
  e.state = { ...e.state, alerts: setAlert(e.state.alerts, deed.asked, deed.text, sceneOf(e.market)) };
  return null;
}

/** What the log says that a script did, done again. */
export function again(e: Engine, deeds: Deed[], events: OrderEvent[]): Ran {
  const result: RunResult = { ...DONE };
  for (const deed of deeds) result.problem = perform(e, deed, events);
  return { result, deeds };
}

/** What a script would do now, without doing it: the same function that runs it. */
export function peek(e: Engine, text: string, focus: string | null, cursor: number | null = null): { readings: Reading[]; problem: string | null } {
  const { script, problems } = parseScript(text);
  const wrong = problems[0];
  if (wrong) return { readings: [], problem: explain(wrong) };
  const context = runContext(e, focus, cursor);
  const readings = script.lines.map((l) => readStatement(l.statement, context));
  return { readings, problem: readings.flatMap((r) => r.problems)[0]?.text ?? null };
}

/** What a script may know of a symbol now, or null when it does not trade. */
export function symbolView(e: Engine, symbol: string): SymbolView | null {
  if (!e.market.has(symbol)) return null;
  const tape = e.market.tape(symbol);
  const holding = holdingOf(e.state.broker, MAIN, symbol);
  const trade = openTrade(holding);
  const scope = trade && holding.scopes.filter((s) => s.tradeId === trade.id).pop();
  return {
    symbol,
    instrument: e.market.instrument(symbol),
    quote: e.market.quote(symbol),
    last: tape.last,
    status: e.market.status(symbol),
    restricted: e.market.restricted(symbol),
    vwap: vwapOf(tape),
    open: tape.open,
    dayHigh: tape.high,
    dayLow: tape.low,
    premarketHigh: tape.premarketHigh,
    premarketLow: tape.premarketLow,
    candle: (minutes) => lastFinishedBar(tape, minutes, e.market.now()),
    premarketCandle: lastPremarketBar(tape, e.market.now()),
    openingRange: (minutes) => openingRange(tape, minutes, e.market.now()),
    cursor: null,
    trade: trade
      ? { sign: trade.sign, averageEntry: averageEntry(trade) as number, stop: scope ? stopPriceOf(scope) : null, riskPerShare: scope?.riskPerShare ?? null }
      : null,
  };
}

function runContext(e: Engine, focus: string | null, cursor: number | null): RunContext {
  const { broker, session } = e.state;
  const seen = brokerContext(e);
  return {
    now: e.market.now(),
    session,
    hours: e.market.hours,
    focus,
    view(s) {
      const view = symbolView(e, s);
      return view && s === focus ? { ...view, cursor } : view;
    },
    passes: (s, rule) => e.market.has(s) && sift(rule, marketView(e.market), Int32Array.of(e.market.number(s)), 1) === 1,
    broker,
    account: MAIN,
    admit: (intent) => admit(broker, intent, seen),
  };
}
