import type { Finding } from './problems.ts';
import type { Token } from './tokens.ts';
import type { Tree, TreeIn } from './tree.ts';

/** What a place in a sentence is for. A form says in which slots it may stand. */
export type Slot =
  | 'statement'
  | 'replacement'
  | 'entry size'
  | 'add size'
  | 'close size'
  | 'ticket size'
  | 'pricing'
  | 'room'
  | 'exit room'
  | 'life'
  | 'exit'
  | 'place'
  | 'reach'
  | 'range'
  | 'candles'
  | 'price'
  | 'base'
  | 'shift'
  | 'offset'
  | 'distance'
  | 'gain'
  | 'stop move'
  | 'which order'
  | 'order move'
  | 'whose'
  | 'rule'
  | 'conjunct'
  | 'clause'
  /** What `when` waits for; its `or`, its `and`, one thing of it. */
  | 'condition'
  | 'condition part'
  | 'condition clause'
  | 'profit'
  | 'wait end'
  /** What may be done when a condition fires. */
  | 'action'
  /** Buy, short, add, sell, cover, close. */
  | 'order'
  | 'chained';

/** What a word does in a sentence, for its look in the editor. */
export type Role =
  | 'verb'
  | 'word'
  | 'size'
  | 'price'
  | 'offset'
  | 'symbol'
  | 'name'
  | 'field'
  | 'value'
  | 'time'
  | 'comment';

/** What a leaf made of the tokens at a place: a value, and what is wrong with it where something is. */
export interface Taken<T> {
  value: T;
  next: number;
  finding?: Finding;
  /** Where the finding is, when it is not about all that was taken. */
  flaw?: number;
}

/** What has been read of the form so far, for a leaf that depends on it. */
export type Before = Readonly<Record<string, unknown>>;

/** One value in a sentence: how it is read, written, offered and made up. Its values are whole numbers of the core's units, words, or names. */
export interface Leaf<T> {
  /** What it is, for “expected …”. */
  leaf: string;
  /** What stands for it in how a form is written. */
  name?: string;
  role: Role;
  example: string;
  /** Reads the tokens at `i`; null when they are something else. `expect` is told of words that could stand further on. */
  take(
    tokens: readonly Token[],
    i: number,
    before: Before,
    expect: (i: number, word: string) => void,
  ): Taken<T> | null;
  write(value: T, before: Before): string;
  /** Beginnings, so that forms that cannot begin here are not tried: words, or kinds of tokens with a # before them. */
  starts: readonly string[];
  /** What may be chosen, where that is a list. */
  choices?: (before: Before) => readonly string[];
  /** A value for a test; `r` gives numbers from 0 up to 1. */
  random(r: () => number, before: Before): T;
}

export type Is = Slot | Leaf<never>;

export interface One<K extends string, I> {
  how: 'one';
  key: K;
  is: I;
}
export interface Maybe<K extends string, I> {
  how: 'maybe';
  key: K;
  is: I;
  /** Words in front of it, written only with it. */
  lead: readonly string[];
}
export interface Flag<K extends string> {
  how: 'flag';
  key: K;
  words: readonly string[];
}
export interface Many<K extends string, S extends Slot> {
  how: 'many';
  key: K;
  is: S;
  /**
   * Each on a line of its own; one on the line itself or several on lines of their own, at least one; one after another; each kind once in any order;
   * or joined by a word.
   */
  by: 'lines' | 'block' | 'sequence' | 'once each' | 'and' | 'or';
}
/** A word of the language, or several. */
export interface Words {
  how: 'words';
  words: readonly string[];
  /** As they are printed. */
  text: string;
}
export type Part = Words | One<string, unknown> | Maybe<string, unknown> | Flag<string> | Many<string, Slot>;

export type Typed<I> = I extends Leaf<infer T> ? T : I extends Slot ? TreeIn<I> : never;
type ValueOf<P> =
  P extends Flag<string>
    ? boolean
    : P extends One<string, infer I>
      ? Typed<I>
      : P extends Maybe<string, infer I>
        ? Typed<I> | null
        : P extends Many<string, infer S>
          ? readonly TreeIn<S>[]
          : never;
/** The fields that the parts of a form give its trees. */
export type Fields<P extends readonly Part[]> = { [Q in Exclude<P[number], Words> as Q['key']]: ValueOf<Q> };

/** A way to write something that is read but never printed: another spelling, a retired form, or a near miss that is answered. */
export interface Reading {
  slots: readonly Slot[];
  parts: readonly Part[];
  becomes: (fields: never) => Tree | null;
  /** The version of the language that still printed it. */
  retired?: number;
  /** Wins over anything else that reads as far. */
  insists?: true;
  /** Only within brackets. */
  inBrackets?: true;
  /** Understood, but not among what is offered where a sentence stops. */
  unsaid?: true;
  /** What it is answered with. */
  wrong?: (fields: never, print: (t: Tree) => string) => Finding;
}

const split = (words: string): readonly string[] => words.split(' ');
/** Words of the language, as they are written. */
export const words = (text: string): Words => ({
  how: 'words',
  words: split(text),
  text: text.replaceAll('( ', '(').replaceAll(' )', ')').replaceAll(' :', ':'),
});
/** A value that has to stand there. */
export const one = <const K extends string, const I>(key: K, is: I): One<K, I> => ({ how: 'one', key, is });
/** A value that may be left out, with the words that lead to it. */
export const maybe = <const K extends string, const I>(key: K, is: I, lead = ''): Maybe<K, I> => ({
  how: 'maybe',
  key,
  is,
  lead: lead === '' ? [] : split(lead),
});
/** Words that are there or not. */
export const flag = <const K extends string>(key: K, text: string = key): Flag<K> => ({
  how: 'flag',
  key,
  words: split(text),
});
/** Several of a slot. */
export const many = <const K extends string, const S extends Slot>(
  key: K,
  is: S,
  by: Many<K, S>['by'],
): Many<K, S> => ({ how: 'many', key, is, by });

/** One form of the language: everything about it but its meaning. The type of its trees follows from its parts. */
export interface Declared<S extends readonly Slot[], P extends readonly Part[]> {
  slots: S;
  parts: P;
  example: string;
  /** What it means, for the reference page. */
  says: string;
  /** What other people call it, and how it is written here: they are led to it. */
  aka?: Readonly<Record<string, string>>;
  /** A list of one is just that one. */
  collapses?: true;
}
/** Declares a form; its tree's type follows from its parts. */
export const form = <const S extends readonly Slot[], const P extends readonly Part[]>(
  slots: S,
  parts: P,
  rest: Omit<Declared<S, P>, 'slots' | 'parts'>,
): Declared<S, P> => ({
  slots,
  parts,
  ...rest,
});

/** What a slot is called in “expected …”, with an example that reads there. */
export const SLOTS: Readonly<Record<Slot, { says: string; example: string }>> = {
  statement: {
    says: 'what to do: buy, short, sell, cover, close, add, move, cancel, flatten, attach, alert …',
    example: 'flatten',
  },
  replacement: { says: 'an order such as buy 300 at bid', example: 'buy 100 at ask + 2c' },
  'entry size': {
    says: 'a size: shares (400), money ($2,500), risk (risk 1R), 20% of power or ticket',
    example: '100',
  },
  'add size': {
    says: 'how much to add: all, half, 25%, shares (400), money ($2,500) or risk 1R',
    example: 'all',
  },
  'close size': {
    says: 'how much: all, half, third, quarter, 25%, shares (100) or money ($600)',
    example: 'half',
  },
  'ticket size': { says: 'a size: shares (400), money ($2,500), risk 1R, or up and down', example: '100' },
  pricing: { says: '“at” and a price, “at market”, or “above”/“below” and a price', example: 'at ask + 3c' },
  room: { says: 'a price, or a distance and “beyond”', example: '6c beyond' },
  'exit room': { says: 'a distance and “beyond”', example: '6c beyond' },
  life: { says: 'gtc, ioc, fok, until 11:00, post only or extended', example: 'extended' },
  exit: { says: 'an exit: stop, target, trail, breakeven or out by', example: 'stop 30c' },
  place: { says: 'a distance such as 30c or usual, or “at” and a price', example: '30c' },
  reach: { says: 'a distance such as 20c or 0.5 atr, or “beyond 1m candle by 2c”', example: '20c' },
  range: { says: 'a range: 1m candle, day, premarket or opening range 5m', example: 'day' },
  candles: { says: 'a candle such as 1m candle', example: '1m candle' },
  price: { says: 'a price such as ask + 3c, vwap, premarket high or 7.40', example: 'last' },
  base: { says: 'a price such as ask + 3c, vwap, premarket high or 7.40', example: 'last' },
  shift: { says: '“+” or “-” and a distance', example: '+ 3c' },
  offset: { says: 'a distance such as 5c, $0.05, 3 ticks, 1.5%, 0.5 atr, 1R or usual', example: '5c' },
  distance: { says: 'a distance such as 5c, $0.05, 3 ticks, 1.5%, 0.5 atr, 1R or usual', example: '5c' },
  gain: { says: 'a gain such as 1.3R or 30c, or “target 1”', example: '1R' },
  'stop move': {
    says: '“to” and a price, “by” and a distance, “up”, “down” or “beyond”',
    example: 'to breakeven',
  },
  'which order': { says: '“last order”, or “order” and its number', example: 'last order' },
  'order move': {
    says: '“to” and a price, “up” or “down” and a distance, or “size up 100”',
    example: 'up 1c',
  },
  whose: { says: '“of” and a symbol, “order” and its number, or “everything”', example: 'everything' },
  rule: { says: 'a rule such as gap > 8%', example: 'gap > 8%' },
  conjunct: { says: 'a rule such as gap > 8%', example: 'gap > 8%' },
  clause: { says: 'a field such as gap, change or float', example: 'gap > 8%' },
  condition: { says: 'what to wait for, such as last >= 5.60', example: 'last >= 5.60' },
  'condition part': { says: 'what to wait for, such as last >= 5.60', example: 'last >= 5.60' },
  'condition clause': {
    says: 'a price (last, 3m close, bid of ORBNT), a field, “gain”, “loss” or “time”',
    example: 'last >= 5.60',
  },
  profit: { says: 'a gain such as 2R, 20%, 30c a share or $40 in all', example: '2R' },
  'wait end': { says: 'until 11:00, until 2026-04-17 or until cancelled', example: 'until 11:00' },
  action: {
    says: 'what to do then: an order, move, cancel, flatten, attach or alert',
    example: 'buy 100 at ask + 2c',
  },
  order: { says: 'an order: buy, short, add, sell, cover or close', example: 'buy 100 at ask + 2c' },
  chained: { says: '“once filled:” and an order', example: 'once filled: close all at ask + 20c' },
};

/** In these slots a tree of another one may stand in brackets. */
export const IN_BRACKETS: Partial<Readonly<Record<Slot, Slot>>> = {
  base: 'price',
  clause: 'rule',
  'condition clause': 'condition',
};
