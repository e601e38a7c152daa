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
    ['bid × ask', `${px(side.bid)} × ${px(side.ask)}`],
    ['contracts there', `${side.bidSize} × ${side.askSize}`],
    ['spread', wide === null ? '–' : `${wide.toFixed(0)} % of its price`],
    ['implied volatility', `${(side.iv * 100).toFixed(1)} %`],
    ['delta', side.delta.toFixed(2)],
    ['a day takes', `$${Math.abs(side.theta * 100).toFixed(2)} a contract`],
    ['a point of IV', `$${(side.vega * 100).toFixed(2)} a contract`],
    ['ends in the money', `${(side.inside * 100).toFixed(0)} %`],
    ['bought at the ask', `$${(paid / 100).toFixed(0)} a contract, even at ${px(even)}`],
  ];
  return (
    <section className="panel min-h-0 grow overflow-y-auto px-3 py-2" aria-label="Contract in hand">
      <h2 className="heading">Contract in hand</h2>
      <p className="num mt-1 text-[15px]" title={nameOf(hand)}>
        {hand.root} {dayText(hand.expiry, chain.date)} {px(hand.strike)} {hand.right}
      </p>
      <table className="mt-2 w-full text-[12.5px]">
        <tbody>
          {rows.map(([what, value]) => (
            <tr key={what}>
              <th scope="row" className="py-0.5 pr-2 text-left font-normal text-quiet">
                {what}
              </th>
              <td className="num py-0.5 text-right">{value}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
