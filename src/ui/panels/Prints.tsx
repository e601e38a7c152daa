'use client';

import { useEffect, useRef, useState } from 'react';
import type { Print } from '@/core/market';
import { SECOND } from '@/core/units';
import type { SymbolSlice } from '@/worker/session/slices';
import { clock, count, px } from '../format';
import { useSettings } from '../settings';

const KEPT = 60;
/** The speed is that of the last so many ms. */
const SPAN = 10 * SECOND;

/** The heading of the prints: how fast they come, and from which size on they are shown. */
export function PrintsHead({ focus }: { focus: SymbolSlice }) {
  const from = useSettings((s) => s.printsFrom);
  const set = useSettings((s) => s.set);
  const [text, setText] = useState<string | null>(null);
  const newest = focus.prints[0];
  const oldest = focus.prints[focus.prints.length - 1];
  // All that is known may have come in less than the span: then it is faster than can be counted in it.
  const within = newest ? focus.prints.filter((p) => newest.at - p.at < SPAN).length : 0;
  const span =
    newest && oldest && within === focus.prints.length ? Math.max(SECOND, newest.at - oldest.at) : SPAN;
  const bad = text !== null && !/^\d{0,7}$/.test(text);
  return (
    <div className="mt-2 flex items-baseline gap-2">
      <h2 className="heading">Prints</h2>
      <span className="num text-[12px] text-quiet" title="Trades a second, over the last ten seconds">
        {((within * SECOND) / span).toFixed(1)}/s
      </span>
      <label className="ml-auto text-[12px] text-quiet">
        from{' '}
        <input
          className="field num w-14 px-1 py-0 text-right text-[12px]"
          aria-label="Prints from so many shares on"
          aria-invalid={bad}
          title={bad ? 'A whole number of shares' : 'Smaller prints are left out'}
          placeholder="any"
          value={text ?? (from === 0 ? '' : String(from))}
          onChange={(e) => {
            setText(e.target.value);
            if (/^\d{0,7}$/.test(e.target.value)) set({ printsFrom: Number(e.target.value) });
          }}
          onBlur={() => setText(null)}
        />
      </label>
    </div>
  );
}

interface Numbered {
  print: Print;
  number: number;
}

/** The newest prints, those of enough shares; what has left the last two dozen is remembered while it is looked at. */
export function PrintList({ focus }: { focus: SymbolSlice }) {
  const from = useSettings((s) => s.printsFrom);
  const known = useRef<{ key: string; list: Numbered[] }>({ key: '', list: [] });
  const [list, setList] = useState<Numbered[]>([]);
  useEffect(() => {
    const key = `${focus.symbol} ${from}`;
    if (known.current.key !== key) known.current = { key, list: [] };
    const seen = known.current.list[0]?.number ?? -1;
    // Time was taken back: what was known has not happened.
    if (seen >= focus.count) known.current.list = [];
    const before = known.current.list[0]?.number ?? -1;
    const fresh = focus.prints
      .map((print, i) => ({ print, number: focus.count - 1 - i }))
      .filter((x) => x.number > before && x.print.qty >= from);
    known.current.list = [...fresh, ...known.current.list].slice(0, KEPT);
    setList(known.current.list);
  }, [focus, from]);
  return (
    <div className="min-h-0 grow overflow-hidden">
      {list.length === 0 && (
        <p className="text-quiet">
          {focus.count === 0
            ? 'Nothing has traded yet today.'
            : `No print of ${count(from)} shares or more among the newest.`}
        </p>
      )}
      <table className="num w-full text-[13px]" data-testid="prints">
        <caption className="sr-only">Newest trades first: time, price, shares, where and how</caption>
        <tbody>
          {list.map(({ print: p, number }) => (
            <tr
              key={number}
              className={
                p.aggressor === 'buy' ? 'text-up' : p.aggressor === 'sell' ? 'text-down' : 'text-text'
              }
            >
              <td className="text-quiet">{clock(p.at)}</td>
              <td className="text-right whitespace-nowrap">
                {p.aggressor === 'buy' ? '▲' : p.aggressor === 'sell' ? '▼' : '='} {px(p.price)}
              </td>
              <td className="pl-1.5 text-right text-text">{count(p.qty)}</td>
              <td className="w-[30px] pl-1 text-[12px] text-quiet" title={howTraded(p)}>
                {mark(p)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Where a print happened and how, in a word; the lit book's ordinary trade is the one without a mark. */
function mark(p: Print): string {
  if (p.condition.endsWith('auction')) return 'auct';
  if (p.venue === 'MID') return 'mid';
  if (p.venue === 'OFF') return 'off';
  return p.condition === 'odd lot' ? 'odd' : '';
}
const WHERE = { LIT: 'in the lit book', MID: 'in the midpoint book', OFF: 'off the exchange' };
const howTraded = (p: Print): string =>
  `${p.condition}, ${WHERE[p.venue]}${p.aggressor === 'none' ? '' : `, the ${p.aggressor === 'buy' ? 'buyer' : 'seller'} took`}`;
