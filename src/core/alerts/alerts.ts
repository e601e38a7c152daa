import { type Condition, printTree } from '../language/index.ts';
import { fieldOf, fieldText, fieldValue, type MarketView, type NewsItem } from '../market/index.ts';
import type { AlertAsked } from '../reading/index.ts';
import { fieldsOf, sift } from '../scan/index.ts';
import { after, dueAt, type Trigger, tell, trigger } from '../triggers/index.ts';
import { formatPrice, MINUTE, SECOND, unreachable } from '../units/index.ts';

/** An alert that the trader has set. Those on a price or on a rule of one symbol fire once; the others go on. */
export interface Alert {
  id: number;
  symbol: string | null;
  on: AlertAsked['on'];
  /** The sentence that sets it. */
  text: string;
  status: 'armed' | 'fired';
  /** Session time until which it keeps quiet; 0 when it does not. */
  quietUntil: number;
  /** Of a price, or of a rule on one symbol: the condition that waits. */
  waits: Trigger<Condition> | null;
  /** Of a rule on any symbol: those that passed it when it was last looked at. */
  inside: string[];
}

export type AlertKind = 'price' | 'rule' | 'entrant' | 'news' | 'halt' | 'resume' | 'condition';

/** One time that an alert fired. */
export interface Fired {
  seq: number;
  alert: number;
  at: number;
  symbol: string;
  kind: AlertKind;
  /** What happened, in a sentence. */
  text: string;
}

/** The number of the alert of what no alert was set for: a condition that fired. */
const NO_ALERT = 0;

export interface Alerts {
  nextId: number;
  list: Alert[];
  /** Newest last; the oldest fall off. */
  fired: Fired[];
  fireSeq: number;
  /** What the second-by-second look has seen. */
  seenTo: number;
  stopsSeen: number;
  /** When each entrant was last told of, so that one who wavers at the edge is not told again and again. */
  told: Record<string, number>;
}

export const NO_ALERTS: Alerts = {
  nextId: 1,
  list: [],
  fired: [],
  fireSeq: 0,
  seenTo: 0,
  stopsSeen: 0,
  told: {},
};
const FIRED_KEPT = 200;
const AGAIN_AFTER = 10 * MINUTE;

/** What the second-by-second look needs of the market. */
export interface AlertScene {
  at: number;
  view: MarketView;
  stocks: Int32Array;
  symbolOf(i: number): string;
  /** Number of a symbol, −1 when it does not trade today. */
  numberOf(symbol: string): number;
  news: readonly NewsItem[];
  stops: readonly { symbol: string; at: number; stopped: boolean }[];
}

/** Sets an alert. What is true already counts as seen. */
export function setAlert(a: Alerts, asked: AlertAsked, text: string, scene: AlertScene): Alerts {
  const alert: Alert = {
    id: a.nextId,
    ...asked,
    text,
    status: 'armed',
    quietUntil: 0,
    waits: conditionOf(asked),
    inside: [],
  };
  if (asked.on.kind === 'rule' && alert.waits) alert.waits = looked(alert.waits, asked.symbol, scene).trigger;
  else if (asked.on.kind === 'rule') alert.inside = insideOf(asked.on.rule, scene);
  const next = { ...a, nextId: a.nextId + 1, list: [...a.list, alert] };
  // Where seconds are looked at already, they go on from where they were.
  return looks(a) ? next : { ...next, seenTo: scene.at, stopsSeen: scene.stops.length };
}

export type AlertChange = { kind: 'remove' } | { kind: 'arm' } | { kind: 'quiet'; until: number };

/**
 * Removes an alert, arms it again, or quiets it until a session time. One on a price waits, armed
 * again, from the side on which its symbol's `last` price stands now.
 */
export function changeAlert(
  a: Alerts,
  id: number,
  change: AlertChange,
  last: (symbol: string) => number | null,
): Alerts {
  if (change.kind === 'remove') return { ...a, list: a.list.filter((x) => x.id !== id) };
  const to = (x: Alert): Alert => {
    if (change.kind === 'quiet') return { ...x, quietUntil: change.until };
    const now = x.symbol === null ? null : last(x.symbol);
    const on =
      x.on.kind === 'price' && now !== null
        ? { ...x.on, way: x.on.price > now ? ('up' as const) : ('down' as const) }
        : x.on;
    return { ...x, on, status: 'armed', quietUntil: 0, waits: conditionOf({ symbol: x.symbol, on }) };
  };
  return { ...a, list: a.list.map((x) => (x.id === id ? to(x) : x)) };
}

const looks = (a: Alerts): boolean => a.list.some((x) => x.status === 'armed' && x.on.kind !== 'price');

/**
 * When the alerts next have to be looked at: rules and halts on each whole second after the last look,
 * news on the second after an item comes out; null when ticks are enough. So nothing is looked at in vain,
 * and it does not matter how time is cut up.
 */
export function dueAlerts(a: Alerts, news: readonly NewsItem[]): number | null {
  const armed = a.list.filter((x) => x.status === 'armed' && x.on.kind !== 'price');
  let due: number | null = null;
  const earliest = (at: number | null) => {
    if (at !== null && (due === null || at < due)) due = at;
  };
  for (const x of armed) {
    if (x.on.kind === 'news') {
      const next = news.find((n) => n.at > a.seenTo);
      if (next) earliest(Math.max(after(a.seenTo, SECOND), Math.ceil(next.at / SECOND) * SECOND));
    } else earliest(x.waits ? dueAt(x.waits, a.seenTo) : after(a.seenTo, SECOND));
  }
  return due;
}
/** Whether a trade of a symbol may fire something. */
export const watchesTrades = (a: Alerts, symbol: string): boolean =>
  a.list.some((x) => x.status === 'armed' && x.on.kind === 'price' && x.symbol === symbol);

/** A trade happened: price alerts of its symbol that it reached fire. */
export function onTrade(a: Alerts, symbol: string, last: number, at: number): Alerts {
  let out = a;
  for (const x of a.list) {
    if (x.status !== 'armed' || x.on.kind !== 'price' || x.symbol !== symbol || at < x.quietUntil || !x.waits)
      continue;
    if (
      tell(x.waits, { kind: 'tick', tick: { symbol, at, last, bid: null, ask: null } }, () => false)
        .outcome !== 'fired'
    )
      continue;
    const text = `${symbol} ${x.on.way === 'up' ? 'rose' : 'fell'} to ${formatPrice(x.on.price)}`;
    out = fire(out, { alert: x.id, at, symbol, kind: 'price', text });
    out = { ...out, list: out.list.map((y) => (y.id === x.id ? { ...y, status: 'fired' } : y)) };
  }
  return out;
}

/** The time that {@link dueAlerts} asked for has come: rules, news and halts are looked at. */
export function lookAt(a: Alerts, scene: AlertScene): Alerts {
  let out = a;
  const stops = scene.stops.slice(a.stopsSeen);
  const news = scene.news.filter((n) => n.at > a.seenTo && n.at <= scene.at);
  for (const x of a.list) {
    if (x.status !== 'armed') continue;
    const heard = scene.at >= x.quietUntil;
    const mine = <T extends { symbol: string }>(list: readonly T[]) =>
      heard ? list.filter((i) => (x.symbol ?? i.symbol) === i.symbol) : [];
    switch (x.on.kind) {
      case 'price':
        break;
      case 'news':
        for (const n of mine(news))
          out = fire(out, {
            alert: x.id,
            at: scene.at,
            symbol: n.symbol,
            kind: 'news',
            text: `${n.symbol}, ${n.kind}: ${n.headline}`,
          });
        break;
      case 'halt':
        for (const s of mine(stops)) {
          const [kind, words] = s.stopped
            ? (['halt', 'is stopped'] as const)
            : (['resume', 'trades again'] as const);
          out = fire(out, {
            alert: x.id,
            at: scene.at,
            symbol: s.symbol,
            kind,
            text: `${s.symbol} ${words}`,
          });
        }
        break;
      case 'rule':
        out =
          x.waits && x.symbol !== null
            ? lookAtOne(out, x, x.symbol, x.on.rule, scene)
            : lookAtAll(out, x, x.on.rule, scene);
        break;
      default:
        unreachable(x.on);
    }
  }
  return { ...out, seenTo: scene.at, stopsSeen: scene.stops.length };
}

const changed = (a: Alerts, x: Alert, change: Partial<Alert>): Alerts => ({
  ...a,
  list: a.list.map((y) => (y.id === x.id ? { ...y, ...change } : y)),
});

/** A rule on one symbol: fires once when it turns true. */
function lookAtOne(a: Alerts, x: Alert, symbol: string, rule: Condition, scene: AlertScene): Alerts {
  const { trigger: waits, outcome } = looked(x.waits as Trigger<Condition>, symbol, scene);
  const fires = outcome === 'fired' && scene.at >= x.quietUntil;
  const told = fires
    ? fire(a, {
        alert: x.id,
        at: scene.at,
        symbol,
        kind: 'rule',
        text: `${symbol} passes: ${nowReads(rule, scene, symbol)}`,
      })
    : a;
  return fires || waits !== x.waits ? changed(told, x, { waits, status: fires ? 'fired' : x.status }) : told;
}

/** A rule on every symbol: tells of each that comes to pass it, and goes on. */
function lookAtAll(a: Alerts, x: Alert, rule: Condition, scene: AlertScene): Alerts {
  const inside = insideOf(rule, scene);
  const before = new Set(x.inside);
  const entered = inside.filter((s) => !before.has(s));
  let out = inside.length !== x.inside.length || entered.length > 0 ? changed(a, x, { inside }) : a;
  if (scene.at < x.quietUntil) return out;
  for (const symbol of entered) {
    const key = `${x.id} ${symbol}`;
    if (scene.at - (out.told[key] ?? Number.NEGATIVE_INFINITY) < AGAIN_AFTER) continue;
    const told = { ...out.told, [key]: scene.at };
    out = {
      ...fire(out, {
        alert: x.id,
        at: scene.at,
        symbol,
        kind: 'entrant',
        text: `${symbol} passes: ${nowReads(rule, scene, symbol)}`,
      }),
      told,
    };
  }
  return out;
}

/** A new day: what was seen of the old one does not count. */
export const newDay = (a: Alerts, scene: AlertScene): Alerts => ({
  ...a,
  stopsSeen: scene.stops.length,
  seenTo: scene.at,
  told: {},
});

/** What an alert on a price, or on a rule of one symbol, waits for: the rule only once it has been false. */
function conditionOf({ symbol, on }: AlertAsked): Trigger<Condition> | null {
  if (symbol === null) return null;
  if (on.kind === 'price')
    return trigger<Condition>({ kind: 'touch', symbol, on: 'last', way: on.way, price: on.price });
  return on.kind === 'rule'
    ? trigger<Condition>({ kind: 'test', test: on.rule, looks: [{ at: 'seconds' }] }, { newly: true })
    : null;
}

/** A rule on one symbol, told the clock. */
const looked = (t: Trigger<Condition>, symbol: string | null, scene: AlertScene) =>
  tell(t, { kind: 'clock', at: scene.at }, (rule) => {
    const i = symbol === null ? -1 : scene.numberOf(symbol);
    return i >= 0 && sift(rule, scene.view, Int32Array.of(i), 1) === 1;
  });

function insideOf(rule: Condition, scene: AlertScene): string[] {
  const who = scene.stocks.slice();
  return [...who.subarray(0, sift(rule, scene.view, who, who.length))].map(scene.symbolOf);
}

/** The rule with the values that made it true. */
function nowReads(rule: Condition, scene: AlertScene, symbol: string): string {
  const i = scene.numberOf(symbol);
  const values = [...new Set(fieldsOf(rule))].map(
    (name) => `${name} ${fieldText(fieldOf(name), fieldValue(fieldOf(name), scene.view, i))}`,
  );
  return values.length === 0 ? printTree(rule) : `${printTree(rule)} (${values.join(', ')})`;
}

/** Tells of a condition that fired, or could not do what it waited for. */
export const tellCondition = (a: Alerts, at: number, symbol: string, text: string): Alerts =>
  fire(a, { alert: NO_ALERT, at, symbol, kind: 'condition', text });

function fire(a: Alerts, fired: Omit<Fired, 'seq'>): Alerts {
  const seq = a.fireSeq + 1;
  return {
    ...a,
    fireSeq: seq,
    fired: [...a.fired, { seq, ...fired }].slice(-FIRED_KEPT),
  };
}
