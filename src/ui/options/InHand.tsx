import { nameOf, type OptionContract } from '@/core/instruments';
import type { ChainSlice } from '@/worker/protocol';
import { dayText, px } from '../format';

/** What is known of the contract that the hand is on. */
export function InHand({ chain, hand }: { chain: ChainSlice | null; hand: OptionContract | null }) {
  const row = chain?.rows.find((r) => r.strike === hand?.strike);
  const side = hand && row && hand.expiry === chain?.expiry ? row[hand.right] : null;
  if (!hand || !side || !chain)
    return (
      <section className="panel grow px-3 py-2" aria-label="Contract in hand">
        <h2 className="heading">Contract in hand</h2>
        <p className="mt-2 text-quiet">
          Press a bid to sell it or an ask to buy it: the sentence comes into the ticket. With Shift held, a
          second strike makes a vertical of the two. Arrow keys go from price to price, Enter presses.
        </p>
      </section>
    );
  const mid = side.ask === null ? null : ((side.bid ?? 0) + side.ask) / 2;
  const wide = mid && side.ask !== null ? ((side.ask - (side.bid ?? 0)) / mid) * 100 : null;
  const paid = side.ask ?? 0;
  const even = hand.right === 'call' ? hand.strike + paid : hand.strike - paid;
  const rows: [string, string][] = [
    ['there', `${side.bidSize} × ${side.askSize}`],
    ['spread', wide === null ? '–' : `${wide.toFixed(0)} %`],
    ['IV', side.iv === null ? '–' : `${(side.iv * 100).toFixed(1)} %`],
    ['delta', side.delta.toFixed(2)],
    ['a day', `−$${Math.abs(side.theta * 100).toFixed(2)}`],
    ['a point of IV', `$${(side.vega * 100).toFixed(2)}`],
    ['ends inside', `${(side.inside * 100).toFixed(0)} %`],
    ['even at', px(Math.round(even))],
  ];
  return (
    <section className="panel min-h-0 grow overflow-y-auto px-3 py-2" aria-label="Contract in hand">
      <h2 className="heading">Contract in hand</h2>
      <p className="num mt-1 text-[15px]" title={nameOf(hand)}>
        {dayText(hand.expiry, chain.date)} {px(hand.strike)} {hand.right}{' '}
        <span className="text-[13px]">
          {px(side.bid)} × {px(side.ask)}
        </span>
      </p>
      <dl className="mt-1 grid grid-cols-2 gap-x-3 text-[12px]">
        {rows.map(([what, value]) => (
          <div key={what} className="flex justify-between gap-2 py-px">
            <dt className="text-quiet">{what}</dt>
            <dd className="num text-right">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
