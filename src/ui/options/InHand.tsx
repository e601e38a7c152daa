import { nameOf, type OptionContract } from '@/core/instruments';
import type { ChainSlice } from '@/worker/session/slices';
import { useLive } from '../client';
import { dayText, px } from '../format';

/** Price levels of each side that are shown. */
const LEVELS = 3;

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
      <ContractBook name={nameOf(hand)} />
    </section>
  );
}

/** What is bid and offered for it beyond the best prices; yours is in it. */
function ContractBook({ name }: { name: string }) {
  const depth = useLive<'depth'>({ kind: 'depth', levels: LEVELS, contract: name });
  const book = depth?.symbol === name ? depth : null;
  return (
    <table
      className="num mt-1 w-full table-fixed border-t border-line text-[12px]"
      data-testid="contract-book"
    >
      <caption className="sr-only">Contracts at the best {LEVELS} prices of each side</caption>
      <thead className="sr-only">
        <tr>
          <th scope="col">contracts</th>
          <th scope="col">bid</th>
          <th scope="col">ask</th>
          <th scope="col">contracts</th>
        </tr>
      </thead>
      <tbody>
        {Array.from({ length: LEVELS }, (_, k) => [book?.bids[k], book?.asks[k]] as const).map(
          ([bid, ask], k) => (
            <tr key={`level ${k + 1}`} className="h-[17px] text-right">
              <td>{bid?.qty}</td>
              <td className="text-up">{bid && px(bid.price)}</td>
              <td className="pl-3 text-left text-down">{ask && px(ask.price)}</td>
              <td className="text-left">{ask?.qty}</td>
            </tr>
          ),
        )}
      </tbody>
    </table>
  );
}
