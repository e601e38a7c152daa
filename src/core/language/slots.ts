/** What is said of a place in a sentence: once, for messages, reference page, examples and types alike. */
interface Place {
  /** What may stand there, for “expected …”. */
  says: string;
  /** A script with something that stands there, to be tried: % stands for it. */
  tried: string;
  /** Places that lead into one another: a list of one is that one. */
  family?: string;
  /** In brackets something of this other place may stand here. */
  brackets?: string;
}

/** Every place in a sentence that forms may stand in. */
export const SLOTS = {
  statement: {
    says: 'what to do: buy, short, sell, cover, close, add, move, cancel, flatten, attach, alert …',
    tried: '%',
  },
  replacement: {
    says: 'an order such as buy 300 at bid',
    tried: 'replace last with %',
  },
  'entry size': {
    says: 'a size: shares (400), money ($2,500), risk (risk 1R), 20% of power or ticket',
    tried: 'buy % at ask + 2c\n  stop 30c',
  },
  'add size': {
    says: 'how much to add: all, half, 25%, shares (400), money ($2,500) or risk 1R',
    tried: 'add % at bid',
  },
  'close size': {
    says: 'how much: all, half, third, quarter, 25%, shares (100) or money ($600)',
    tried: 'close % at bid',
  },
  'ticket size': {
    says: 'a size: shares (400), money ($2,500), risk 1R, or up and down',
    tried: 'size %',
  },
  instrument: {
    says: 'a symbol in capitals, or an option such as 45 days 30 delta put',
    tried: 'buy 1 of % at mid',
  },
  expiry: {
    says: 'an expiry: a date such as 2027-04-16, or 45 days',
    tried: 'buy 1 of % at the money call at mid',
  },
  strike: {
    says: 'a strike: 47.50, 30 delta, at the money or 2 out',
    tried: 'buy 1 of 45 days % call at mid',
  },
  'second strike': {
    says: 'the other strike: /55, or 5 wide',
    tried: 'buy 1 of 45 days 30 delta % call at mid debit',
  },
  pricing: {
    says: '“at” and a price, “at market”, or “above”/“below” and a price',
    tried: 'buy 100 %\n  stop 30c',
  },
  room: {
    says: 'a price, or a distance and “beyond”',
    tried: 'buy 100 above day high + 4c limit %\n  stop 30c',
  },
  'exit room': {
    says: 'a distance and “beyond”',
    tried: 'buy 100 at ask\n  stop 30c limit %',
  },
  life: {
    says: 'gtc, ioc, fok, until 11:00, post only or extended',
    tried: 'buy 100 at bid %\n  stop 30c',
  },
  exit: {
    says: 'an exit: stop, target, trail, breakeven or out by',
    tried: 'buy 100 at ask + 2c\n  stop 30c for half\n  target 1R for half\n  %',
  },
  place: {
    says: 'a distance such as 30c or usual, or “at” and a price',
    tried: 'buy 100 at ask + 2c\n  stop %',
  },
  reach: {
    says: 'a distance such as 20c or 0.5 atr, or “beyond 1m candle by 2c”',
    tried: 'buy 100 at ask + 2c\n  stop 30c\n  trail %',
  },
  range: {
    says: 'a range: 1m candle, day, premarket or opening range 5m',
    tried: 'buy 100 at ask + 2c\n  stop beyond % by 2c',
  },
  candles: {
    says: 'a candle such as 1m candle',
    tried: 'buy 100 at ask + 2c\n  stop 30c\n  trail beyond % by 2c',
  },
  price: {
    says: 'a price such as ask + 3c, vwap, premarket high or 7.40',
    tried: 'alert at %',
    family: 'price',
  },
  base: {
    says: 'a price such as ask + 3c, vwap, premarket high or 7.40',
    tried: 'alert at %',
    family: 'price',
    brackets: 'price',
  },
  reference: {
    says: 'a price by its name such as ask, vwap or premarket high',
    tried: 'alert at %',
  },
  shift: { says: '“+” or “-” and a distance', tried: 'alert at last %' },
  offset: {
    says: 'a distance such as 5c, $0.05, 3 ticks, 1.5%, 0.5 atr, 1R or usual',
    tried: 'buy 100 at bid - %\n  stop 30c',
  },
  distance: {
    says: 'a distance such as 5c, $0.05, 3 ticks, 1.5%, 0.5 atr, 1R or usual',
    tried: 'buy 100 at bid\n  stop 30c\n  target %',
  },
  gain: {
    says: 'a gain such as 1.3R or 30c, or “target 1”',
    tried: 'buy 100 at bid\n  stop 30c\n  target 1R for half\n  breakeven after %',
  },
  'stop move': {
    says: '“to” and a price, “by” and a distance, “up”, “down” or “beyond”',
    tried: 'move stop %',
  },
  'which order': {
    says: '“last order”, or “order” and its number',
    tried: 'move % up 1c',
  },
  'order move': {
    says: '“to” and a price, “up” or “down” and a distance, or “size up 100”',
    tried: 'move last order %',
  },
  whose: {
    says: '“of” and a symbol, “order” and its number, or “everything”',
    tried: 'discard staged %',
  },
  condition: {
    says: 'a condition such as gap > 8% or last >= 5.60',
    tried: 'when %: alert at last + 10c',
    family: 'condition',
  },
  conjunct: {
    says: 'a condition such as gap > 8% or last >= 5.60',
    tried: 'when %: alert at last + 10c',
    family: 'condition',
  },
  clause: {
    says: 'a price (last, 3m close, bid of ORBNT), a field such as gap, change or float, “gain”, “loss” or “time”',
    tried: 'when %: alert at last + 10c',
    family: 'condition',
    brackets: 'condition',
  },
  profit: {
    says: 'a gain such as 2R, 20%, 30c a share or $40 in all',
    tried: 'when gain >= %: close half at ask',
  },
  'wait end': {
    says: 'until 11:00, until 2026-04-17 or until cancelled',
    tried: 'when last >= 999.00 %: buy 100 at ask + 2c',
  },
  action: {
    says: 'what to do then: an order, move, cancel, flatten, attach or alert',
    tried: 'when last >= 999.00: %',
  },
  order: {
    says: 'an order: buy, short, add, sell, cover or close',
    tried: '%',
  },
  chained: {
    says: '“once filled:” and an order',
    tried: 'buy 100 at ask + 2c\n  %',
  },
} as const satisfies Readonly<Record<string, Place>>;

/** What a place in a sentence is for. A form says in which of them it may stand. */
export type Slot = keyof typeof SLOTS;

type FamilyOf<S extends Slot> = (typeof SLOTS)[S] extends { family: infer F } ? F : never;
/** The places whose trees may stand in a slot. */
export type Within<S extends Slot> = (typeof SLOTS)[S] extends { family: infer F }
  ? { [K in Slot]: FamilyOf<K> extends F ? ([FamilyOf<K>] extends [never] ? never : K) : never }[Slot]
  : S;

/** What is said of a slot, with all that may be said. */
export const placeOf = (slot: Slot): Place => SLOTS[slot];
/** In brackets a tree of this other slot may stand in a slot; none for most. */
export const inBrackets = (slot: Slot): Slot | undefined => placeOf(slot).brackets as Slot | undefined;
