import type { FORMS, Kind } from './forms/index.ts';
import type { Fields } from './grammar.ts';
import type { Slot, Within } from './slots.ts';

export type { Kind } from './forms/index.ts';

type Trees = { [S in Slot]: TreeIn<S> };
type Flat<T> = { [K in keyof T]: T[K] };
/** The tree of one form: its kind, and what its parts say. Trees hold no places and no comments. */
export type TreeOf<K extends Kind> = K extends Kind
  ? Flat<{ kind: K } & Fields<(typeof FORMS)[K]['parts'], Trees>>
  : never;

type KindsIn<S extends Slot> = {
  [K in Kind]: Extract<(typeof FORMS)[K]['slots'][number], S> extends never ? never : K;
}[Kind];
/** The trees that may stand in a slot. */
export type TreeIn<S extends Slot> = TreeOf<KindsIn<Within<S>>>;
export type Tree = TreeOf<Kind>;

/** What may be done: a line of a script, or what stands behind a condition. */
export type Statement = TreeIn<'statement' | 'action'>;
export type InstrumentTree = TreeIn<'instrument'>;
export type PriceTree = TreeIn<'price'>;
/** A price that has a name. */
export type ReferenceTree = TreeIn<'reference'>;
export type OffsetTree = TreeIn<'distance'>;
export type RangeTree = TreeIn<'range'>;
export type PricingTree = TreeIn<'pricing'>;
export type LifeTree = TreeIn<'life'>;
export type EntrySize = TreeIn<'entry size'>;
export type CloseSize = TreeIn<'close size'>;
export type Exit = TreeIn<'exit'>;
export type PlaceTree = TreeIn<'place'>;
/** What can be true or not: a scan's rule, what an alert or an order waits for. */
export type Condition = TreeIn<'condition'>;
/** One thing that a condition asks for. */
export type Clause = Exclude<Condition, { kind: 'any' | 'all' | 'not' }>;
/** What may be done when a condition fires. */
export type Action = TreeIn<'action'>;
/** Buy, short, add, sell, cover, close. */
export type OrderTree = TreeIn<'order'>;
