// Numbers that name things, each kind its own type, so that one cannot stand for another.
declare const idBrand: unique symbol;
type Id<Of extends string> = number & { readonly [idBrand]: Of };

/** An order at the broker, as the trader sees it. */
export type OrderId = Id<'order'>;
/** A trade: from flat to flat. */
export type TradeId = Id<'trade'>;
/** An order at the exchange; one of the broker's orders may have several, one after the other. */
export type WireId = Id<'wire'>;

/** An account at the broker. */
export type AccountId = string & { readonly [idBrand]: 'account' };
