'use client';

import { useSession } from '../client';
import { signed } from '../format';

/** How the whole market stands, in one quiet line: the index stand-in, breadth, sectors from strong to weak. */
export function ContextStrip() {
  const c = useSession((s) => s.context);
  if (!c)
    return (
      <section className="panel px-3 py-1 text-[13px] text-quiet">The market is being looked at.</section>
    );
  const traded = c.up + c.down + c.unchanged;
  return (
    <section
      className="panel flex items-baseline gap-5 overflow-hidden px-3 py-1 text-[13px] whitespace-nowrap text-quiet"
      aria-label="Market context"
      title={c.sectors.map((s) => `${s.sector} ${signed(s.change, 2, '%')}`).join('\n')}
    >
      <span>
        index <Move value={c.index} />
      </span>
      <span title={`${c.up} up, ${c.down} down, ${c.unchanged} unchanged of ${traded} that have traded`}>
        breadth{' '}
        <span className="num">
          <span className="text-up">{c.up} ▲</span> <span className="text-down">{c.down} ▼</span>
        </span>
      </span>
      <span title="Share of the traded stocks that stand above their VWAP">
        above VWAP{' '}
        <span className="num text-text">{c.aboveVwap === null ? '–' : `${Math.round(c.aboveVwap)}%`}</span>
      </span>
      <span className="ml-2">strongest</span>
      <Sectors list={c.sectors.slice(0, 3)} />
      <span className="ml-2">weakest</span>
      <Sectors list={c.sectors.slice(3).slice(-3).reverse()} />
    </section>
  );
}

const Sectors = ({ list }: { list: readonly { sector: string; change: number; stocks: number }[] }) => (
  <span className="flex gap-3">
    {list.map((s) => (
      <span key={s.sector} title={`Median change of ${s.stocks} stocks`}>
        {s.sector} <Move value={s.change} />
      </span>
    ))}
  </span>
);

function Move({ value }: { value: number | null }) {
  if (value === null) return <span className="num">–</span>;
  return (
    <span className={`num ${value > 0 ? 'text-up' : value < 0 ? 'text-down' : ''}`}>
      {signed(value, 2, '%')}
    </span>
  );
}
