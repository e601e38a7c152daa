'use client';

import { Settings2 } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { positionOf } from '@/core/orders';
import type { Price } from '@/core/units';
import { act, focusOn, sliceOf, useLive, useSession } from '../client';
import { count, px } from '../format';
import { Pop } from '../primitives/Pop';
import { useSettings } from '../settings';
import { tradeOf } from '../trade/trade-view';
import { type Pair, pairSentence } from './pair-sentence';

const PairForm = dynamic(() => import('./PairForm').then((m) => m.PairForm), { ssr: false });

/**
 * Live pairs: each buys at the ask and sells at the bid of its own symbol with one press. After the page is
 * loaded, or on another day, a pair sleeps until it is woken: nothing that was left over goes by one press.
 */
export function LivePairs() {
  const pairs = useSettings((s) => s.pairs);
  if (pairs.length === 0) return null;
  return (
    <section className="panel grid gap-1 p-1.5" aria-label="Live pairs">
      {pairs.map((p) => (
        <PairRow key={p.id} pair={p} />
      ))}
    </section>
  );
}

function PairRow({ pair }: { pair: Pair }) {
  const focus = useSession((s) => s.focus?.symbol ?? '');
  const symbol = pair.symbol || focus;
  useLive<'symbol'>(pair.symbol === '' ? null : { kind: 'symbol', symbol: pair.symbol });
  const slice = useSession((s) => sliceOf(s, symbol));
  const account = useSession((s) => s.account?.id);
  const book = useSession((s) => s.book);
  const day = useSession((s) => `${s.clock?.date ?? ''}`);
  const [awake, setAwake] = useState('');
  const [open, setOpen] = useState(false);
  const trade = tradeOf(book, symbol, account)?.trade;
  const position = trade ? positionOf(trade) : 0;
  // Another symbol, another day, other terms: it has to be looked at again before it may act.
  const terms = `${day} ${symbol} ${JSON.stringify(pair)}`;
  const asleep = awake !== terms;
  const press = (side: 'buy' | 'sell', price: number | null | undefined) => {
    if (asleep) return setAwake(terms);
    if (price === null || price === undefined) return;
    void act(pairSentence(pair, side, symbol, position, price as Price), 'pair', `Pair ${symbol}`);
  };
  const quote = slice?.quote;
  return (
    <div className="grid grid-cols-[92px_1fr_1fr_auto] items-stretch gap-1.5" data-testid="live-pair">
      <button
        type="button"
        className={`num text-left font-bold ${symbol === focus ? 'text-focus' : ''}`}
        onClick={() => void focusOn(symbol)}
      >
        {symbol}
        <span className="block text-[12px] font-normal text-quiet">
          {position === 0 ? 'flat' : `${position > 0 ? 'long' : 'short'} ${Math.abs(position)}`}
        </span>
      </button>
      {(['buy', 'sell'] as const).map((side) => {
        const price = side === 'buy' ? quote?.ask : quote?.bid;
        const shown = side === 'buy' ? quote?.askSize : quote?.bidSize;
        const says = price ? pairSentence(pair, side, symbol, position, price) : 'nobody quotes';
        return (
          <button
            key={side}
            type="button"
            className={`btn num grid grid-cols-[auto_1fr_auto] items-baseline gap-3 px-3 py-1 text-left ${asleep ? 'border-dashed text-quiet' : side === 'buy' ? 'text-up' : 'text-down'}`}
            disabled={!price}
            title={says}
            aria-label={asleep ? `Wake the pair of ${symbol}: ${side}` : says}
            onClick={() => press(side, price)}
          >
            <span className="text-lg leading-6 font-bold">{px(price)}</span>
            <span className="truncate text-[13px]">{asleep ? 'asleep: press to wake it' : says}</span>
            <span className="text-[12px] text-quiet">{shown ? `${count(shown)} there` : ''}</span>
          </button>
        );
      })}
      <Pop
        title={`Terms of the pair of ${symbol}`}
        label={<Settings2 size={14} aria-hidden />}
        className="btn px-1.5 text-quiet"
        open={open}
        onOpenChange={setOpen}
      >
        <PairForm pair={pair} />
      </Pop>
    </div>
  );
}
