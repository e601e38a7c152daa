// The parts that forms are made of. A form says everything about itself but what it does.
import type { Role } from './marks.ts';
import type { Finding } from './problems.ts';
import type { Slot } from './slots.ts';
import type { Token } from './tokens.ts';

/** What a leaf made of the tokens at a place: a value, and what is wrong with it where something is. */
export interface Taken<T> {
  value: T;
  next: number;
  finding?: Finding;
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

export interface One<K extends string, I> {
  how: 'one';
  key: K;
  is: I;
}
export interface Maybe<K extends string, I> {
  how: 'maybe';
  key: K;
  is: I;
  /** Words in front of it, and behind it, written only with it. */
  lead: readonly string[];
  tail: readonly string[];
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
/** A part that a tree has a field for. */
export type Kept = Exclude<Part, Words>;

type Typed<I, Trees> = I extends Leaf<infer T> ? T : I extends keyof Trees ? Trees[I] : never;
type ValueOf<P, Trees> =
  P extends Flag<string>
    ? boolean
    : P extends One<string, infer I>
      ? Typed<I, Trees>
      : P extends Maybe<string, infer I>
        ? Typed<I, Trees> | null
        : P extends Many<string, infer S>
          ? readonly Typed<S, Trees>[]
          : never;
/** The fields that the parts of a form give its trees; `Trees`: what stands in each slot. */
export type Fields<P extends readonly Part[], Trees> = {
  [Q in Exclude<P[number], Words> as Q['key']]: ValueOf<Q, Trees>;
};

/** A way to write something that is read but never printed: another spelling, a retired form, or a near miss that is answered. */
export interface Reading {
  slots: readonly Slot[];
  parts: readonly Part[];
  /** What it is; or the parts that say the same in our words. */
  becomes?: (fields: never) => { kind: string } | null;
  ours?: readonly Part[];
  /** The version of the language that still printed it. */
  retired?: number;
  /** Wins over anything else that reads as far. */
  insists?: true;
  /** Only within brackets. */
  inBrackets?: true;
  /** Understood, but not among what is offered where a sentence stops. */
  unsaid?: true;
  /** What it is answered with. */
  wrong?: (fields: never, print: (t: never) => string) => Finding;
}

const split = (words: string): readonly string[] => (words === '' ? [] : words.split(' '));
/** Words of the language, as they are written. */
export const words = (text: string): Words => ({
  how: 'words',
  words: split(text),
  text: text.replaceAll('( ', '(').replaceAll(' )', ')').replaceAll(' :', ':'),
});
/** A value that has to stand there. */
export const one = <const K extends string, const I>(key: K, is: I): One<K, I> => ({
  how: 'one',
  key,
  is,
});
/** A value that may be left out, with the words that lead to it and those that end it. */
export const maybe = <const K extends string, const I>(key: K, is: I, lead = '', tail = ''): Maybe<K, I> => ({
  how: 'maybe',
  key,
  is,
  lead: split(lead),
  tail: split(tail),
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

/** What a trader wants to do. */
export type Task =
  | 'Enter'
  | 'Exit'
  | 'Move a stop or an order'
  | 'Protect'
  | 'Cancel'
  | 'Size'
  | 'Wait for'
  | 'Tell me'
  | 'See and set';
/** What a script is for, for its look on keys and buttons. */
export type Purpose = 'in' | 'out' | 'protect' | 'cancel' | 'size' | 'see';

/** One form of the language: everything about it but its meaning. The type of its trees follows from its parts. */
export interface Declared<S extends readonly Slot[], P extends readonly Part[]> {
  slots: S;
  parts: P;
  example: string;
  /** What it means, for the reference page. */
  says: string;
  /** What other people call it, and how it is written here: they are led to it. */
  aka?: Readonly<Record<string, string | readonly string[]>>;
  /** A list of one is just that one. */
  collapses?: true;
  /** Of a sentence: under what the guided editor offers it, and what it is for on a key where that does not follow. */
  task?: Task;
  purpose?: Purpose;
  /** A script in which its example can be tried, where that of its slot does not do; % stands for it. */
  tried?: string;
  /** Further examples: simpler ones to begin with, or ones that fit where the first does not. */
  others?: readonly string[];
  /** Words with which it turns a side or a direction, for which it waits or rests, with which it takes or goes at once: no repair touches them. */
  turns?: string;
  waits?: string;
  takes?: string;
}
/** Declares a form; its tree's type follows from its parts. */
export const form = <
  const S extends readonly Slot[],
  const P extends readonly Part[],
  const R extends Omit<Declared<S, P>, 'slots' | 'parts'>,
>(
  slots: S,
  parts: P,
  rest: R,
): { slots: S; parts: P } & R => ({
  slots,
  parts,
  ...rest,
});

/** What the reference page says of a group of forms as a whole, with scripts that show them together. */
export interface Chapter {
  text: string;
  scripts: readonly { says: string; text: string }[];
}
