'use client';

import { useState } from 'react';
import { ALL, climb, PLAIN_LADDER, spansOf } from '@/core/review';
import { PRICE_SCALE } from '@/core/units';
import { ask, useSession } from '../client';
import { PlainTable } from '../primitives/PlainTable';
import { useAsked } from './asked';
import { inR } from './said';

const numberIn = (text: string, least: number, most: number, whole = false): number | null => {
  const n = Number(text);
  return text.trim() !== '' && n >= least && n <= most && (!whole || Number.isInteger(n)) ? n : null;
};

/** What to risk on a trade, month by month, by rules agreed before; put on the account with one press. */
export function Ladder() {
  const account = useSession((s) => s.account);
  const { answer } = useAsked({ kind: 'overview', filter: ALL, unit: null });
  const [texts, setTexts] = useState({
    usual: '',
    up: String(PLAIN_LADDER.up),
    down: String(PLAIN_LADDER.down),
    trades: String(PLAIN_LADDER.trades),
    most: String(PLAIN_LADDER.most),
  });
  const unitNow = (account?.riskUnit ?? 0) / PRICE_SCALE;
  const usual = texts.usual === '' ? unitNow : numberIn(texts.usual, 1, 100_000);
  const [up, down, trades, most] = [
    numberIn(texts.up, 0.1, 1_000),
    numberIn(texts.down, -1_000, -0.1),
    numberIn(texts.trades, 1, 10_000, true),
    numberIn(texts.most, 1, 100, true),
  ];
  const months = answer ? spansOf(answer.days, 'month') : [];
  const rules =
    usual && up !== null && down !== null && trades !== null && most !== null
      ? { usual, up, down, trades, most }
      : null;
  const climbed = rules ? climb(months, rules) : null;
  const field = (name: keyof typeof texts, label: string, ok: boolean, right: string) => (
    <label className="flex items-baseline justify-between gap-2">
      <span className="text-quiet">{label}</span>
      <span className="text-right">
        <input
          className="field num w-20 py-0.5 text-right"
          inputMode="decimal"
          placeholder={name === 'usual' ? String(unitNow) : ''}
          value={texts[name]}
          aria-invalid={!ok}
          onChange={(e) => setTexts({ ...texts, [name]: e.target.value })}
        />
        {!ok && <span className="block text-[12px]">⚠ {right}</span>}
      </span>
    </label>
  );
  return (
    <section
      className="panel flex min-h-0 flex-col gap-1.5 overflow-y-auto px-3 py-2 text-[13px]"
      aria-label="Ladder"
    >
      <h2 className="heading">Ladder for the risk unit</h2>
      {field('usual', 'One rung, $ a trade', usual !== null, '1 to 100,000')}
      {field('up', 'A rung up after a month of at least, R', up !== null, 'above 0')}
      {field('down', 'A rung down after one of at most, R', down !== null, 'below 0')}
      {field('trades', 'Trades that a month must have', trades !== null, 'a whole number')}
      {field('most', 'Highest rung', most !== null, 'a whole number')}
      {climbed && (
        <>
          <PlainTable
            heads={['Month', 'Trades', 'R', 'Rung', 'Next']}
            rows={climbed.months.map((m) => [
              m.month,
              m.trades,
              inR(m.r, 1),
              `${m.rung} ($${m.unit})`,
              m.next === 'up' ? '↑' : m.next === 'down' ? '↓' : '=',
            ])}
          />
          <p className="mt-1">
            From here on <b className="num">${climbed.now.unit}</b> a trade, rung {climbed.now.rung}. The
            account risks <span className="num">${unitNow}</span>.
          </p>
          <button
            type="button"
            className="btn self-start"
            disabled={climbed.now.unit === unitNow}
            title={climbed.now.unit === unitNow ? 'The account risks that already' : undefined}
            onClick={() => void ask({ kind: 'risk unit', dollars: climbed.now.unit })}
          >
            Agreed: risk ${climbed.now.unit} a trade
          </button>
        </>
      )}
    </section>
  );
}
