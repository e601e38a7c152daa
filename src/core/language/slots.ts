/** What is said of a place in a sentence: once, for messages, reference page, examples and types alike. */
interface Place {
  /** What may stand there, for “expected …”. */
  says: string;
  /** Something that reads there. */
  example: string;
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
    example: 'flatten',
    tried: '%',
  },
  replacement: {
    says: 'an order such as buy 300 at bid',
    example: 'buy 100 at ask + 2c',
    tried: 'replace last with %',
  },
  'entry size': {
    says: 'a size: shares (400), money ($2,500), risk (risk 1R), 20% of power or ticket',
    example: '100',
    tried: 'buy % at ask + 2c\n  stop 30c',
  },
  'add size': {
    says: 'how much to add: all, half, 25%, shares (400), money ($2,500) or risk 1R',
    example: 'all',
    tried: 'add % at bid',
  },
  'close size': {
    says: 'how much: all, half, third, quarter, 25%, shares (100) or money ($600)',
    example: 'half',
    tried: 'close % at bid',
  },
  'ticket size': {
    says: 'a size: shares (400), money ($2,500), risk 1R, or up and down',
    example: '100',
    tried: 'size %',
  },
  instrument: {
    says: 'a symbol in capitals, or an option such as 45 days 30 delta put',
    example: 'VULPN',
    tried: 'buy 1 of % at mid',
  },
  expiry: {
    says: 'an expiry: a date such as 2027-04-16, or 45 days',
    example: '45 days',
    tried: 'buy 1 of % at the money call at mid',
  },
  strike: {
    says: 'a strike: 47.50, 30 delta, at the money or 2 out',
    example: 'at the money',
    tried: 'buy 1 of 45 days % call at mid',
  },
  'second strike': {
    says: 'the other strike: /55, or 5 wide',
    example: '5 wide',
    tried: 'buy 1 of 45 days 30 delta % call at mid debit',
  },
  pricing: {
    says: '“at” and a price, “at market”, or “above”/“below” and a price',
    example: 'at ask + 3c',
    tried: 'buy 100 %\n  stop 30c',
  },
  room: {
    says: 'a price, or a distance and “beyond”',
    example: '6c beyond',
    tried: 'buy 100 above day high + 4c limit %\n  stop 30c',
  },
  'exit room': {
    says: 'a distance and “beyond”',
    example: '6c beyond',
    tried: 'buy 100 at ask\n  stop 30c limit %',
  },
  life: {
    says: 'gtc, ioc, fok, until 11:00, post only or extended',
    example: 'extended',
    tried: 'buy 100 at bid %\n  stop 30c',
  },
  exit: {
    says: 'an exit: stop, target, trail, breakeven or out by',
    example: 'stop 30c',
    tried: 'buy 100 at ask + 2c\n  stop 30c for half\n  target 1R for half\n  %',
  },
  place: {
    says: 'a distance such as 30c or usual, or “at” and a price',
    example: '30c',
    tried: 'buy 100 at ask + 2c\n  stop %',
  },
  reach: {
    says: 'a distance such as 20c or 0.5 atr, or “beyond 1m candle by 2c”',
    example: '20c',
    tried: 'buy 100 at ask + 2c\n  stop 30c\n  trail %',
  },
  range: {
    says: 'a range: 1m candle, day, premarket or opening range 5m',
    example: 'day',
    tried: 'buy 100 at ask + 2c\n  stop beyond % by 2c',
  },
  candles: {
    says: 'a candle such as 1m candle',
    example: '1m candle',
    tried: 'buy 100 at ask + 2c\n  stop 30c\n  trail beyond % by 2c',
  },
  price: {
    says: 'a price such as ask + 3c, vwap, premarket high or 7.40',
    example: 'last',
    tried: 'alert at %',
    family: 'price',
  },
  base: {
    says: 'a price such as ask + 3c, vwap, premarket high or 7.40',
    example: 'last',
    tried: 'alert at %',
    family: 'price',
    brackets: 'price',
  },
  reference: {
    says: 'a price by its name such as ask, vwap or premarket high',
    example: 'last',
    tried: 'alert at %',
  },
  shift: { says: '“+” or “-” and a distance', example: '+ 3c', tried: 'alert at last %' },
  offset: {
    says: 'a distance such as 5c, $0.05, 3 ticks, 1.5%, 0.5 atr, 1R or usual',
    example: '5c',
    tried: 'buy 100 at bid - %\n  stop 30c',
  },
  distance: {
    says: 'a distance such as 5c, $0.05, 3 ticks, 1.5%, 0.5 atr, 1R or usual',
    example: '5c',
    tried: 'buy 100 at bid\n  stop 30c\n  target %',
  },
  gain: {
    says: 'a gain such as 1.3R or 30c, or “target 1”',
    example: '1R',
    tried: 'buy 100 at bid\n  stop 30c\n  target 1R for half\n  breakeven after %',
  },
  'stop move': {
    says: '“to” and a price, “by” and a distance, “up”, “down” or “beyond”',
    example: 'to breakeven',
    tried: 'move stop %',
  },
  'which order': {
    says: '“last order”, or “order” and its number',
    example: 'last order',
    tried: 'move % up 1c',
  },
  'order move': {
    says: '“to” and a price, “up” or “down” and a distance, or “size up 100”',
    example: 'up 1c',
    tried: 'move last order %',
  },
  whose: {
    says: '“of” and a symbol, “order” and its number, or “everything”',
    example: 'everything',
    tried: 'discard staged %',
  },
  condition: {
    says: 'a condition such as gap > 8% or last >= 5.60',
    example: 'last >= 5.60',
    tried: 'when %: alert at last + 10c',
    family: 'condition',
  },
  conjunct: {
    says: 'a condition such as gap > 8% or last >= 5.60',
    example: 'last >= 5.60',
    tried: 'when %: alert at last + 10c',
    family: 'condition',
  },
  clause: {
    says: 'a price (last, 3m close, bid of ORBNT), a field such as gap, change or float, “gain”, “loss” or “time”',
    example: 'last >= 5.60',
    tried: 'when %: alert at last + 10c',
    family: 'condition',
    brackets: 'condition',
  },
  profit: {
    says: 'a gain such as 2R, 20%, 30c a share or $40 in all',
    example: '2R',
    tried: 'when gain >= %: close half at ask',
  },
  'wait end': {
    says: 'until 11:00, until 2026-04-17 or until cancelled',
    example: 'until 11:00',
    tried: 'when last >= 999.00 %: buy 100 at ask + 2c',
  },
  action: {
    says: 'what to do then: an order, move, cancel, flatten, attach or alert',
    example: 'buy 100 at ask + 2c',
    tried: 'when last >= 999.00: %',
  },
  order: {
    says: 'an order: buy, short, add, sell, cover or close',
    example: 'buy 100 at ask + 2c',
    tried: '%',
  },
  chained: {
    says: '“once filled:” and an order',
    example: 'once filled: close all at ask + 20c',
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
