'use client';

import { useState } from 'react';
import { explain, parseScript } from '@/core/language';
import { useSession } from '../client';
import { Choice } from '../primitives/Choice';
import { Tick } from '../primitives/Tick';
import { useSettings } from '../settings';
import type { Pair } from './pair-sentence';

/** The terms of a live pair: symbol, size, plan, how and when it goes. */
export function PairForm({ pair }: { pair: Pair }) {
  const pairs = useSettings((s) => s.pairs);
  const plans = useSettings((s) => s.plans);
  const set = useSettings((s) => s.set);
  const known = useSession((s) => s.symbols);
  const [symbol, setSymbol] = useState(pair.symbol);
  const [size, setSize] = useState(pair.size);
  const change = (c: Partial<Pair>) =>
    set({ pairs: pairs.map((p) => (p.id === pair.id ? { ...p, ...c } : p)) });
  const [problem] = parseScript(`buy ${size} at ask\n  stop 30c`).problems;
  const stranger = symbol !== '' && known !== null && !known.includes(symbol);
  return (
    <div className="grid w-[340px] gap-2 p-3 text-[13px]">
      <label>
        <span className="heading block">Symbol; empty for whatever is in focus</span>
        <input
          className="field num mt-0.5 w-full"
          value={symbol}
          placeholder="the focus"
          aria-invalid={stranger}
          onChange={(e) => setSymbol(e.target.value.trim().toUpperCase())}
          onBlur={() => !stranger && change({ symbol })}
        />
        {stranger && <span className="block">⚠ “{symbol}” does not trade today.</span>}
      </label>
      <label>
        <span className="heading block">Size: shares, $2,500, risk 1R or 20% of power</span>
        <input
          className="field num mt-0.5 w-full"
          value={size}
          aria-invalid={problem !== undefined}
          onChange={(e) => setSize(e.target.value)}
          onBlur={() => !problem && change({ size: size.trim() })}
        />
        {problem && <span className="block">⚠ {explain(problem)}</span>}
      </label>
      <div>
        <span className="heading block">Exits of what it opens</span>
        <Choice
          label="Exits of what it opens"
          className="mt-0.5 w-full"
          value={pair.plan}
          options={[['', 'the active plan'], ...plans.map((p) => [p.name, p.name] as const)]}
          change={(plan) => change({ plan })}
        />
      </div>
      <div>
        <span className="heading block">When it is pressed</span>
        <Choice<Pair['when']>
          label="When it is pressed"
          className="mt-0.5 w-full"
          value={pair.when}
          options={[
            ['now', 'it goes at once'],
            ['staged', 'it is staged'],
            ['at the open', 'it waits for 09:30'],
          ]}
          change={(when) => change({ when })}
        />
      </div>
      <span className="flex gap-4">
        <Tick on={pair.market} change={(on) => change({ market: on, extended: pair.extended && !on })}>
          at market
        </Tick>
        <Tick on={pair.extended} change={(on) => change({ extended: on, market: pair.market && !on })}>
          extended hours
        </Tick>
      </span>
      <button
        type="button"
        className="btn"
        onClick={() => set({ pairs: pairs.filter((p) => p.id !== pair.id) })}
      >
        Take this pair away
      </button>
    </div>
  );
}
