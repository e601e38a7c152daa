// Orders that wait for a condition: setting them, what they see, how near they are, what is left of them.

import { isOption, rootOf } from '../instruments/index.ts';
import {
  type Action,
  type Clause,
  type Condition,
  clausesIn,
  type InstrumentTree,
  instrumentName,
  instrumentNamed,
  type PriceTree,
  printTree,
  type Statement,
  type TreeOf,
} from '../language/index.ts';
import { type Happening, type Trigger, type Truth, tell, trigger } from '../triggers/index.ts';
import { AFTER_CLOSE, MINUTE, roundToTick } from '../units/index.ts';
import { type ClauseNow, clauseHolds, clauseNow, lengthText, waitsForCandle, whenOf } from './conditions.ts';
import { viewOf, withRoot } from './instruments.ts';
import {
  midnightOfTimes,
  type Named,
  openTradeOf,
  type Reading,
  Refused,
  type RunContext,
  refuse,
  type Waiting,
} from './moment.ts';
import { measuresOf, namedOf, priceIn } from './prices.ts';
import type { Reason } from './reasons.ts';

/** Refusals of an action that no later moment makes good. */
const FOR_GOOD: ReadonlySet<Reason['code']> = new Set<Reason['code']>([
  'unknown symbol',
  'no level',
  'no plan',
  'no ticket',
  'date over',
  'time over',
  'limit side',
  'quantity',
  'most shares',
  'too late',
  'no such condition',
  'contracts of stock',
  'net price',
  'far strike',
]);

/** What an action is about: a stock, an option that is held, or of one to be opened the text, whose days and deltas are worked out when it fires. */
function boundSymbol(a: Action, c: RunContext): string {
  const named = symbolOf(a, c);
  const opens = a.kind === 'enter';
  const { symbol } = viewOf(named, c, !opens);
  return opens && named !== null && isOption(symbol) ? instrumentName(withRoot(named, c.focus)) : symbol;
}

/** Sets a deed to wait for a condition. One that is true already is asked about; one that could never go is refused. */
export function readWhen(
  s: TreeOf<'when'>,
  c: RunContext,
  out: Reading,
  read: (s: Statement, c: RunContext) => Reading,
): void {
  // Of what its first action is about, a bare reference speaks.
  const symbol = boundSymbol(s.actions[0] as Action, c);
  out.symbol = symbol;
  const bound: TreeOf<'when'> = { ...s, actions: s.actions.map((a) => withSymbol(a, boundSymbol(a, c))) };
  const readAll = (): Reading[] =>
    bound.actions.map((a) => read(a, { ...c, focus: rootOf(nameIn(a, c) ?? symbol) }));
  const until = endOf(s, c);
  const set = tell(
    trigger(whenOf(s.condition, symbol, c), { newly: s.newly, until }),
    { kind: 'set', at: c.now },
    (x) => clauseHolds(x, symbol, c),
  );
  if (set.outcome === 'over')
    refuse({ code: 'waiting over', until: until ?? c.now, now: c.now }, { ...bound, until: null });
  // What goes by itself asks nobody.
  if (set.outcome === 'fired' && c.byItself) {
    Object.assign(out, together(readAll()));
    return;
  }
  if (set.outcome === 'fired')
    refuse({ code: 'true already', seen: seenNow(s.condition, symbol, c) }, [
      ...(bound.actions.length === 1 ? bound.actions : []),
      { ...bound, newly: true },
    ]);
  for (const [k, now] of readAll().entries()) {
    checkLife(s, k, c);
    settable(bound, k, now);
    if (now.problem) out.warnings.push(`As of now it would be refused: ${now.problem.text}`);
    else out.warnings.push(...now.warnings);
    out.facts ??= now.facts;
    out.addsRisk ||= now.addsRisk;
    // What it would ask is asked now, and the yes is kept with it.
    // Where the quote and the session stand now says nothing of where they will be then.
    out.asks.push(...now.asks.filter((q) => q.kind !== 'far through' && q.kind !== 'sleeps'));
  }
  out.named.push(...numbersOf(s.condition, symbol, c));
  const waiting = { symbol, sentence: bound, trigger: set.trigger };
  const far = nearnessOf(waiting, c);
  out.sayBack = printTree(bound);
  out.about = `now ${far.text}`;
  const closes = bound.actions.every((a) => a.kind === 'close' && nameIn(a, c) === symbol);
  const trade = closes ? (openTradeOf(c, symbol)?.id ?? null) : null;
  const yes = out.asks.length > 0 ? { yes: [...out.asks] } : {};
  out.deeds.push({ kind: 'wait', account: c.account, ...waiting, far: far.far, trade, ...yes });
}

/** Refuses what no later moment makes good, and what is to be decided now, since nobody can be asked when it fires. */
function settable(bound: TreeOf<'when'>, k: number, { problem }: Reading): void {
  const action = bound.actions[k] as Action;
  const instead = (a: Action) => ({ ...bound, actions: bound.actions.map((x, n) => (n === k ? a : x)) });
  if (problem?.reason.code === 'which of group' && action.kind === 'cancel order')
    refuse(problem.reason, [instead({ ...action, alone: true }), instead({ ...action, group: true })]);
  if (problem && FOR_GOOD.has(problem.reason.code)) throw new Refused(problem.reason, []);
}

/** Readings of a block that goes at once, as one: what is refused is told, the rest goes. */
function together(all: readonly Reading[]): Partial<Reading> {
  const good = all.filter((r) => r.problem === null);
  const [first] = good;
  if (!first) return { ...(all[0] as Reading) };
  const texts = all.flatMap((r) => (r.problem ? [`Could not go: ${r.problem.text}`] : []));
  return {
    ...first,
    deeds: good.flatMap((r) => r.deeds),
    warnings: [...good.flatMap((r) => r.warnings), ...texts],
    named: good.flatMap((r) => r.named),
    asks: good.flatMap((r) => r.asks),
    sayBack: good.map((r) => r.sayBack).join('\n'),
  };
}

/** Pauses, resumes or takes back what waits, by its number. */
export function readWaitingOrder(s: TreeOf<'waiting order'>, c: RunContext, out: Reading): void {
  const mine = c.waiting.filter((w) => w.account === c.account);
  const w =
    mine.find((x) => x.id === s.number) ??
    refuse({ code: 'no such condition', number: s.number, have: mine.map((x) => x.id) });
  out.symbol = w.symbol;
  out.about = printTree(w.sentence).split('\n')[0] as string;
  if (s.what === 'cancel') out.deeds.push({ kind: 'unwait', ids: [w.id] });
  else out.deeds.push({ kind: 'pause waiting', id: w.id, paused: s.what === 'pause' });
}

/** Takes back what waits for a symbol, or for any; what else a block does goes on waiting. @returns of how many something was taken back. */
export function unwait(
  symbol: string | null,
  c: RunContext,
  out: Reading,
  which: (a: Action) => boolean = () => true,
): number {
  const ids: number[] = [];
  let parts = 0;
  for (const w of c.waiting) {
    if (w.account !== c.account) continue;
    const { actions } = w.sentence;
    const stays = actions.filter(
      (a) => !which(a) || (symbol !== null && (nameIn(a, c) ?? w.symbol) !== symbol),
    );
    if (stays.length === actions.length) continue;
    if (stays.length === 0) ids.push(w.id);
    else {
      parts++;
      out.deeds.push({ kind: 'rewait', id: w.id, sentence: { ...w.sentence, actions: stays } });
    }
  }
  if (ids.length > 0) out.deeds.push({ kind: 'unwait', ids });
  return ids.length + parts;
}

/** Whether something that waits would open a position or add to one. */
export const isEntry = (a: Action): boolean => a.kind === 'enter' || a.kind === 'add' || a.kind === 'reverse';

/** What waits after something happened, and whether it fires or its time has run out. */
export function told(
  w: Waiting,
  h: Happening,
  c: RunContext,
): { waiting: Waiting; outcome: 'waits' | 'fired' | 'over' } {
  const { trigger: next, outcome } = tell(w.trigger, h, (x) => clauseHolds(x, w.symbol, c));
  return { waiting: next === w.trigger ? w : { ...w, trigger: next }, outcome };
}

/** What waits on a new day: what its clauses saw of the old one does not count. */
export const overNight = (w: Waiting): Waiting => ({
  ...w,
  trigger: { ...w.trigger, truth: w.trigger.truth.map(() => null) },
});

/** What a condition sees now, each clause with its number. */
export const seenNow = (x: Condition, symbol: string, c: RunContext): string =>
  clausesIn(x)
    .map((clause) => clauseNow(clause, symbol, c).seen)
    .join(', ');

/** How far something is from firing, in words and as a number to sort by: 0 fires, infinite is not known. */
export interface Nearness {
  far: number;
  text: string;
}

/** How near what waits is to firing: of `and` its farthest clause, of `or` its nearest. */
export function nearnessOf(w: Pick<Waiting, 'symbol' | 'sentence' | 'trigger'>, c: RunContext): Nearness {
  const near = nearness(w.sentence.condition, w.symbol, c);
  if (near.far === 0 && waitsForFalse(w.trigger))
    return { far: Number.POSITIVE_INFINITY, text: `true (${near.text}); has to be false once` };
  return near;
}
const waitsForFalse = (t: Trigger<Clause>): boolean => t.newly && !t.seenFalse;

function nearness(x: Condition, symbol: string, c: RunContext): Nearness {
  switch (x.kind) {
    case 'all':
      return x.of.map((y) => nearness(y, symbol, c)).reduce((a, b) => (b.far > a.far ? b : a));
    case 'any':
      return x.of.map((y) => nearness(y, symbol, c)).reduce((a, b) => (b.far < a.far ? b : a));
    case 'not': {
      const inner = truthNow(x.of, symbol, c);
      const text = seenNow(x.of, symbol, c);
      return inner === false
        ? { far: 0, text }
        : { far: Number.POSITIVE_INFINITY, text: `${text}, which must not be` };
    }
    default:
      return clauseNearness(x, symbol, c);
  }
}

function truthNow(x: Condition, symbol: string, c: RunContext): Truth {
  const now = (y: Condition): Truth => truthNow(y, symbol, c);
  switch (x.kind) {
    case 'all':
      return x.of
        .map(now)
        .reduce<Truth>(
          (a, b) => (a === false || b === false ? false : a === null || b === null ? null : true),
          true,
        );
    case 'any':
      return x.of
        .map(now)
        .reduce<Truth>(
          (a, b) => (a === true || b === true ? true : a === null || b === null ? null : false),
          false,
        );
    case 'not': {
      const inner = now(x.of);
      return inner === null ? null : !inner;
    }
    default:
      return clauseHolds(x, symbol, c);
  }
}

/** A clause on a candle is as near as the last price, were it to close there, and as the candle's close. */
function clauseNearness(x: Clause, symbol: string, c: RunContext): Nearness {
  const minutes = waitsForCandle(x);
  if (minutes === null) {
    const now = clauseNow(x, symbol, c);
    return { far: now.far, text: textOf(now) };
  }
  const length = minutes * MINUTE;
  const left = length - (c.now % length);
  const asLast = clauseNow({ ...x, left: { kind: 'last' } } as Clause, symbol, c);
  const closes = `closes in ${lengthText(left)}`;
  return asLast.holds === true
    ? { far: left / MINUTE, text: `${asLast.seen}, ${closes} and would fire` }
    : { far: asLast.far + left / MINUTE, text: `${textOf(asLast)}, ${closes}` };
}
const textOf = (now: ClauseNow): string => (now.missing === '' ? now.seen : `${now.seen}, ${now.missing}`);

/** Prices of a symbol that something waits for, as they stand now: lines for its chart. */
export function pricesAwaited(w: Waiting, c: RunContext): { symbol: string; price: number }[] {
  return clausesIn(w.sentence.condition).flatMap((x) => {
    if (x.kind !== 'price is' && x.kind !== 'price crosses') return [];
    const price = awaited(x.right, w.symbol, c);
    return price === null ? [] : [{ symbol: x.symbol ?? rootOf(w.symbol), price }];
  });
}

function awaited(p: PriceTree, symbol: string, c: RunContext): number | null {
  try {
    return priceIn(p, measuresOf(viewOf(rootOf(symbol), c), c));
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    return null;
  }
}

/** Prices of a condition that are written by name, with their numbers now. A level that is not there is refused. */
export function numbersOf(x: Condition, symbol: string, c: RunContext): Named[] {
  return clausesIn(x).flatMap((clause) => {
    const rights =
      clause.kind === 'price between' ? [clause.low, clause.high] : 'right' in clause ? [clause.right] : [];
    return rights.flatMap((p) => {
      try {
        return namedOf(p, roundToTick(priceIn(p, measuresOf(viewOf(rootOf(symbol), c), c))));
      } catch (e) {
        if (e instanceof Refused && e.reason.code !== 'no level') return [];
        throw e;
      }
    });
  });
}

/** Session time at which the waiting ends: with the day where nothing is said. */
function endOf({ until }: TreeOf<'when'>, c: RunContext): number | null {
  if (until === null)
    return c.session === 'closed' ? midnightOfTimes(c) + AFTER_CLOSE : c.dayStart + c.hours.end;
  switch (until.kind) {
    case 'until cancelled':
      return null;
    case 'until time':
      return midnightOfTimes(c) + until.time * MINUTE;
    case 'until date': {
      const midnight = c.midnightOf(until.date) ?? refuse({ code: 'date over', date: until.date });
      return midnight + (until.time === null ? 20 * 60 : until.time) * MINUTE;
    }
  }
}

/** An order whose life is over before its condition can be true would be dead when it fires. */
function checkLife(s: TreeOf<'when'>, k: number, c: RunContext): void {
  const action = s.actions[k] as Action;
  const life = 'life' in action ? action.life.find((l) => l.kind === 'until time') : undefined;
  if (!life || s.condition.kind === 'any') return;
  const clauses = s.condition.kind === 'all' ? s.condition.of : [s.condition];
  for (const x of clauses)
    if (x.kind === 'time is' && x.op === '>=' && x.time >= life.time)
      refuse(
        {
          code: 'dead when it fires',
          life: midnightOfTimes(c) + life.time * MINUTE,
          from: midnightOfTimes(c) + x.time * MINUTE,
        },
        {
          ...s,
          actions: s.actions.map((a, n) =>
            n === k ? ({ ...a, life: ('life' in a ? a.life : []).filter((l) => l !== life) } as Action) : a,
          ),
        },
      );
}

/** What an action names; of a staged order, its own. */
function symbolOf(a: Action, c: RunContext): InstrumentTree | null {
  if ('instrument' in a) return a.instrument;
  if (a.kind === 'move order' && a.order.kind === 'last order') return a.order.instrument;
  const symbol = 'symbol' in a ? a.symbol : a.kind === 'staged' ? stagedSymbol(a.whose, c) : null;
  return symbol === null ? null : instrumentNamed(symbol);
}
function stagedSymbol(whose: TreeOf<'staged'>['whose'], c: RunContext): string | null {
  if (whose?.kind === 'staged order') return c.staged.find((x) => x.id === whose.number)?.symbol ?? null;
  return whose?.kind === 'of symbol' ? whose.symbol : null;
}
const nameIn = (a: Action, c: RunContext): string | null => {
  const named = symbolOf(a, c);
  return named === null ? null : instrumentName(named);
};

/** An action that names its symbol, so that it means the same whatever is in focus. */
function withSymbol(a: Action, symbol: string): Action {
  const instrument = instrumentNamed(symbol);
  if ('instrument' in a) return { ...a, instrument };
  if ('symbol' in a) return { ...a, symbol };
  if (a.kind === 'move order' && a.order.kind === 'last order')
    return { ...a, order: { ...a.order, instrument } };
  return a.kind === 'staged' && a.whose === null ? { ...a, whose: { kind: 'of symbol', symbol } } : a;
}
