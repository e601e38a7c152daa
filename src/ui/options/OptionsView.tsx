'use client';

import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useState } from 'react';
import type { OptionContract } from '@/core/instruments';
import { useLive, useSession } from '../client';
import { Sentence } from '../panels/Sentence';
import { ChainTable } from './ChainTable';
import { ExpiryStrip } from './ExpiryStrip';
import { FindVerticals } from './FindVerticals';
import { HeldOptions } from './HeldOptions';
import { InHand } from './InHand';
import { Payoff } from './Payoff';
import { Volatility } from './Volatility';

const VolatilityPictures = dynamic(() => import('./VolatilityPictures'), { ssr: false });

type Shown = 'chain' | 'pictures' | 'find';
const SHOWN: readonly (readonly [Shown, string])[] = [
  ['chain', 'Chain'],
  ['pictures', 'Volatility'],
  ['find', 'Find verticals'],
];

/** The option chain of the focus, with the ticket that a press fills. */
export function OptionsView() {
  const symbol = useSession((s) => s.focus?.symbol);
  const phase = useSession((s) => s.phase);
  const [expiry, setExpiry] = useState<string | null>(null);
  const [hand, setHand] = useState<OptionContract | null>(null);
  const [shown, setShown] = useState<Shown>('chain');
  const chain = useLive<'chain'>(symbol === undefined ? null : { kind: 'chain', symbol: null, expiry });
  const here = chain && chain.symbol === symbol ? chain : null;
  const listed = useSession((s) => s.focus?.instrument.options != null);
  return (
    <main className="flex h-full min-h-[560px] min-w-0 gap-1.5 p-1.5">
      <h1 className="sr-only">Options</h1>
      <div className="panel flex min-w-0 grow flex-col">
        <div className="flex shrink-0 gap-1 px-3 pt-2" role="group" aria-label="What is shown">
          {SHOWN.map(([id, name]) => (
            <button
              key={id}
              type="button"
              className="btn py-0.5"
              aria-pressed={shown === id}
              onClick={() => setShown(id)}
            >
              {name}
            </button>
          ))}
        </div>
        {shown === 'find' ? (
          <FindVerticals taken={() => setShown('chain')} />
        ) : here ? (
          <>
            <Volatility chain={here} />
            <ExpiryStrip chain={here} choose={setExpiry} />
            {shown === 'chain' ? (
              <ChainTable chain={here} hand={hand} take={setHand} />
            ) : (
              <VolatilityPictures chain={here} />
            )}
          </>
        ) : (
          <p className="m-auto max-w-md p-6 text-center text-quiet">
            {symbol !== undefined && !listed ? (
              <>
                {symbol} has no listed options. In the <Link href="/scan">Scan</Link> the field “options
                listed” finds what has; anything can be brought into focus by typing its symbol after F2.
              </>
            ) : phase === 'ready' ? (
              'The chain is on its way. Before its first quote of the day a company has none.'
            ) : (
              'The market is on its way.'
            )}
          </p>
        )}
        {shown !== 'find' && <HeldOptions />}
      </div>
      <div className="flex w-[300px] shrink-0 flex-col gap-1.5">
        <InHand chain={here} hand={hand} />
        <Payoff />
        <div className="h-[152px] shrink-0">
          <Sentence steps />
        </div>
      </div>
    </main>
  );
}
