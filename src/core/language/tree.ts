import type { FORMS } from './forms.ts';
import type { Fields, Slot } from './grammar.ts';

/** What forms there are. */
export type Kind = keyof typeof FORMS;
type Flat<T> = { [K in keyof T]: T[K] };
/** The tree of one form: its kind, and what its parts say. Trees hold no places and no comments. */
export type TreeOf<K extends Kind> = K extends Kind
  ? Flat<{ kind: K } & Fields<(typeof FORMS)[K]['parts']>>
  : never;

/** Slots that lead into one another: a price with offsets may stand in brackets where a bare one may, a list of one is that one. */
type Family<S extends Slot> = S extends 'price' | 'base'
  ? 'price' | 'base'
  : S extends 'rule' | 'conjunct' | 'clause'
    ? 'rule' | 'conjunct' | 'clause'
    : S extends 'condition' | 'condition part' | 'condition clause'
      ? 'condition' | 'condition part' | 'condition clause'
      : S;
type KindsIn<S extends Slot> = {
  [K in Kind]: Extract<(typeof FORMS)[K]['slots'][number], S> extends never ? never : K;
}[Kind];
/** The trees that may stand in a slot. */
export type TreeIn<S extends Slot> = TreeOf<KindsIn<Family<S>>>;
export type Tree = TreeOf<Kind>;

export type Statement = TreeIn<'statement'>;
export type PriceTree = TreeIn<'price'>;
export type OffsetTree = TreeIn<'distance'>;
export type RangeTree = TreeIn<'range'>;
export type PricingTree = TreeIn<'pricing'>;
export type LifeTree = TreeIn<'life'>;
export type EntrySize = TreeIn<'entry size'>;
export type CloseSize = TreeIn<'close size'>;
export type Exit = TreeIn<'exit'>;
export type PlaceTree = TreeIn<'place'>;
/** A condition over the fields of a symbol: a scan's rule, or what an alert waits for. */
export type Rule = TreeIn<'rule'>;
/** What a waiting order waits for. */
export type Condition = TreeIn<'condition'>;
/** One thing that a condition asks for. */
export type ConditionClause = Exclude<
  Condition,
  { kind: 'any condition' } | { kind: 'all conditions' } | { kind: 'not condition' }
>;
/** What may be done when a condition fires. */
export type Action = TreeIn<'action'>;
/** Buy, short, add, sell, cover, close. */
export type OrderTree = TreeIn<'order'>;
