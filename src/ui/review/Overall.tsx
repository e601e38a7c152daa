'use client';

import { useMemo, useState } from 'react';
import { spreadOf } from '@/core/rehearsal';
import { type Span, spansOf } from '@/core/review';
import type { Overview } from '@/worker/review/review-messages';
import { PlainTable } from '../primitives/PlainTable';
import { useLens } from './asked';
import { Calendar } from './Calendar';
import { EquityChart, ExcursionChart, SpreadChart } from './charts';
import { FiguresPanel } from './FiguresPanel';
import { HourGrid } from './HourGrid';
import { Picture } from './Picture';
import { StopDoing } from './StopDoing';
import { border, dollars, inR, sumInR, told } from './said';
import type { ReviewTab } from './tabs';
import { openTrade } from './trade-open';

const SPANS: readonly Span[] = ['week', 'month', 'quarter'];

/** All days: what to stop doing, few figures, and their pictures. */
export default function Overall({ overview, show }: { overview: Overview; show(tab: ReviewTab): void }) {
  const { days, figures, results, hours, unit } = overview;
  const open = (trade: string) => {
    openTrade(trade);
    show('trades');
  };
  const bins = useMemo(() => spreadOf([[...results]]), [results]);
  const width = bins.length > 1 ? (bins[1]?.from ?? 0) - (bins[0]?.from ?? 0) : 1;
  return (
    <div className="grid min-h-0 grid-cols-[372px_1fr] gap-1.5">
      <div className="flex min-h-0 flex-col gap-1.5 overflow-y-auto">
        <StopDoing overview={overview} show={show} />
        <FiguresPanel figures={figures} />
        <Spans days={days} />
      </div>
      <div className="grid min-h-0 auto-rows-[minmax(220px,1fr)] grid-cols-2 gap-1.5 overflow-y-auto">
        <Picture
          title="Running sum"
          note={`after each of ${days.length} days`}
          beside={
            <button
              type="button"
              className="btn px-2 py-0 text-[12px]"
              aria-label="In dollars instead of R"
              aria-pressed={unit === '$'}
              onClick={() => useLens.setState({ unit: unit === 'R' ? '$' : 'R' })}
            >
              $
            </button>
          }
          table={{
            heads: ['Date', 'Trades', 'Net', 'R', 'Sum $', 'Sum R'],
            rows: days.map((d) => [
              d.date,
              d.trades,
              dollars(d.net),
              sumInR(d),
              dollars(d.sumNet),
              inR(d.sumR),
            ]),
          }}
        >
          <EquityChart days={days} unit={unit} />
        </Picture>
        <Picture
          title="Days"
          note="net dollars of each day and week"
          table={{
            heads: ['Date', 'Trades', 'R', 'Net'],
            rows: days.map((d) => [d.date, d.trades, sumInR(d), dollars(d.net)]),
          }}
        >
          <Calendar days={days} open={() => show('trades')} />
        </Picture>
        <Picture
          title="Results"
          note={`in bars of ${unit === 'R' ? `${Number(width.toFixed(2))}R` : `$${width}`}`}
          table={{
            heads: ['From', 'Trades'],
            rows: bins.map((b) => [border(unit, b.from), b.counts[0]]),
          }}
        >
          <SpreadChart bins={bins} unit={unit} />
        </Picture>
        <Picture
          title="How far it went"
          note="across: against it; up: for it; rings lost, dots won"
          table={{
            heads: ['Trade', 'Against', 'For', 'Made'],
            rows: overview.excursions.map((e) => [
              <button
                key={e.trade}
                type="button"
                className="underline decoration-line underline-offset-4"
                onClick={() => open(e.trade)}
              >
                {e.trade}
              </button>,
              inR(-e.against),
              inR(e.forIt),
              inR(e.made),
            ]),
          }}
        >
          {overview.excursions.length > 0 ? (
            <ExcursionChart points={overview.excursions} choose={open} />
          ) : (
            <p className="p-4 text-[13px] text-quiet">
              No prices are known of these trades: it is told of trades made here, as the market of their day
              is known.
            </p>
          )}
        </Picture>
        <Picture
          title="Hour by weekday"
          note="of the entry; faint: fewer than five trades"
          table={{
            heads: ['Hour', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri'],
            rows: hours.map((h) => [
              h.hour,
              ...h.cells.map((c) =>
                c.trades ? `${told(unit, unit === 'R' ? c.r : c.net, 1)} (${c.trades})` : '',
              ),
            ]),
          }}
        >
          <HourGrid hours={hours} unit={unit} />
        </Picture>
      </div>
    </div>
  );
}

/** Weeks, months or quarters, the newest first. */
function Spans({ days }: { days: Overview['days'] }) {
  const [span, setSpan] = useState<Span>('month');
  const rows = useMemo(() => spansOf(days, span).reverse(), [days, span]);
  return (
    <section className="panel shrink-0 px-3 py-2" aria-label="By week, month or quarter">
      <div className="flex gap-1" role="group" aria-label="Span">
        {SPANS.map((s) => (
          <button
            key={s}
            type="button"
            className="btn px-2 py-0 text-[12px]"
            aria-pressed={span === s}
            onClick={() => setSpan(s)}
          >
            {s}s
          </button>
        ))}
      </div>
      <PlainTable
        heads={[span, 'Days', 'Trades', 'Net', 'R']}
        rows={rows.map((r) => [r.name, r.days, r.trades, dollars(r.net), sumInR(r, 1)])}
      />
    </section>
  );
}
