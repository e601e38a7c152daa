'use client';

import { useState } from 'react';
import { totalOf } from '@/core/account';
import { executionsCsv, tradesCsv, tradesJson } from '@/core/formats';
import { eventText } from '@/core/orders';
import { refOf, type TradeReview } from '@/core/review';
import { dayOf, toCents } from '@/core/units';
import { useSession } from '../client';
import { download } from '../download';
import { avg, clock, px, signed, usd } from '../format';
import { useAsked } from './asked';
import { PastSessions } from './PastSessions';

const NONE: TradeReview[] = [];

/** Says of a day that is taken again that its trades count in no figure. */
function Hindsight({ trade }: { trade: number }) {
  const attempt = useSession((s) => s.clock?.attempt ?? 0);
  const { answer } = useAsked({ kind: 'trade', ref: refOf(attempt, trade) });
  if (!answer?.hindsight) return null;
  return (
    <span
      className="border border-line px-1 text-[13px] text-quiet"
      title="It counts in no figure of all days"
    >
      hindsight: this day was known before
    </span>
  );
}

/** The day under way: what each trade that was open on it made, after costs and in R, with every execution; and its export. */
export function ThisDay() {
  const session = useSession((s) => s.book?.reviews) ?? NONE;
  const date = useSession((s) => s.clock?.date ?? '');
  const dates = useSession((s) => s.clock?.dates) ?? [];
  const reviews = session.filter((r) => r.closedAt === null || dayOf(r.closedAt) === dates.length - 1);
  const [chosen, setChosen] = useState<number | null>(null);
  const trade = reviews.find((r) => r.id === chosen) ?? reviews[reviews.length - 1];
  const sum = (f: (r: TradeReview) => number) => reviews.reduce((a, r) => a + f(r), 0);
  // The sum is that of the rows as they are shown.
  const inSum = (f: (r: TradeReview) => number) => sum((r) => toCents(f(r)));
  const improved = sum((r) => r.fills.reduce((a, f) => a + f.better * f.qty, 0));
  return (
    <div className="grid min-h-0 grid-rows-[auto_1fr_auto] gap-1.5">
      <section className="panel flex items-center gap-6 px-3 py-2" aria-label="The day in sum">
        <h2 className="font-semibold">{date}</h2>
        {trade && <Hindsight trade={trade.id} />}
        <span>
          gross{' '}
          <b className="num">
            {usd(
              inSum((r) => r.gross),
              true,
            )}
          </b>
        </span>
        <span>
          costs <b className="num">{usd(inSum((r) => totalOf(r.costs)))}</b>
        </span>
        <span>
          net{' '}
          <b className={`num ${inSum((r) => r.net) >= 0 ? 'text-up' : 'text-down'}`}>
            {usd(
              inSum((r) => r.net),
              true,
            )}
          </b>
        </span>
        {improved > 0 && (
          <span title="What fills were better than the other side's quote, or than the limit where that was nearer">
            price improvement <b className="num">{usd(improved, true)}</b>
          </span>
        )}
        <span title="The sum of the R of its trades, each by what it risked">
          trades’ R, summed{' '}
          <b className="num">
            {signed(
              sum((r) => r.r ?? 0),
              2,
              'R',
            )}
          </b>
        </span>
        <span className="ml-auto flex gap-2">
          <button
            type="button"
            className="btn"
            disabled={reviews.length === 0}
            onClick={() => download(`trades-${date}.csv`, 'text/csv', tradesCsv(dates, reviews))}
          >
            Trades as CSV
          </button>
          <button
            type="button"
            className="btn"
            disabled={reviews.length === 0}
            onClick={() => download(`executions-${date}.csv`, 'text/csv', executionsCsv(dates, reviews))}
          >
            Executions as CSV
          </button>
          <button
            type="button"
            className="btn"
            disabled={reviews.length === 0}
            onClick={() => download(`trades-${date}.json`, 'application/json', tradesJson(dates, reviews))}
          >
            All as JSON
          </button>
        </span>
      </section>
      {reviews.length === 0 ? (
        <section className="panel p-6 text-quiet">
          Trades appear here from their first fill on: entry, exits, result after costs, and R. Enter one on
          the Desk.
        </section>
      ) : (
        <div className="grid min-h-0 grid-cols-[1fr_460px] gap-1.5">
          <section className="panel overflow-auto" aria-label="Trades">
            <table className="plain">
              <thead>
                <tr>
                  {['Trade', 'Opened', 'Closed', 'Shares', 'Entry', 'Exit', 'Gross', 'Costs', 'Net', 'R'].map(
                    (h) => (
                      <th key={h} scope="col">
                        {h}
                      </th>
                    ),
                  )}
                </tr>
              </thead>
              <tbody className="num">
                {reviews.map((r) => (
                  <tr
                    key={r.id}
                    data-testid="trade-row"
                    className={`cursor-pointer hover:bg-raised ${r.id === trade?.id ? 'bg-raised' : ''}`}
                    onClick={() => setChosen(r.id)}
                  >
                    <td>
                      <button
                        type="button"
                        className={`font-bold ${r.direction === 'long' ? 'text-up' : 'text-down'}`}
                        onClick={() => setChosen(r.id)}
                      >
                        {r.direction} {r.symbol}
                      </button>
                    </td>
                    <td>
                      {dayOf(r.openedAt) < dates.length - 1 && (
                        <span className="text-quiet">{dates[dayOf(r.openedAt)]?.slice(5)} </span>
                      )}
                      {clock(r.openedAt)}
                    </td>
                    <td>{r.closedAt === null ? 'open' : clock(r.closedAt)}</td>
                    <td>{r.shares}</td>
                    <td>{avg(r.averageEntry)}</td>
                    <td>{avg(r.averageExit)}</td>
                    <td>{usd(r.gross, true)}</td>
                    <td>{usd(totalOf(r.costs))}</td>
                    <td className={r.net >= 0 ? 'text-up' : 'text-down'}>{usd(r.net, true)}</td>
                    <td>{r.r === null ? '–' : signed(r.r, 2, 'R')}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          {trade && <TradeDetail trade={trade} />}
        </div>
      )}
      <PastSessions />
    </div>
  );
}

function TradeDetail({ trade }: { trade: TradeReview }) {
  const all = useSession((s) => s.book?.events);
  const notes = useSession((s) => s.desk?.notes);
  // What was noted stands among what happened.
  const lines = [
    ...(all ?? [])
      .filter((e) => e.tradeId === trade.id)
      .map((e) => ({ key: `e${e.id}`, at: e.at, text: eventText(e), note: false })),
    ...(notes ?? [])
      .filter((n) => n.tradeId === trade.id)
      .map((n, k) => ({ key: `n${k}`, at: n.at, text: n.text, note: true })),
  ].sort((a, b) => a.at - b.at);
  return (
    <section className="panel overflow-auto px-3 py-2" aria-label="One trade">
      <h2 className="heading">
        {trade.direction} {trade.symbol}: the sentence
      </h2>
      <pre className="num mb-3 text-[13px] whitespace-pre-wrap">{trade.sentence}</pre>
      <p className="mb-3 text-quiet">
        furthest for it <span className="num text-text">{usd(trade.mfe, true)}</span>, furthest against it{' '}
        <span className="num text-text">{usd(trade.mae, true)}</span>
      </p>
      <h3 className="heading">Executions</h3>
      <table className="num mb-3 w-full text-[13px] whitespace-nowrap">
        <tbody>
          {trade.fills.map((f) => (
            <tr key={f.id}>
              <td>{clock(f.at, 'millis')}</td>
              <td>{f.role}</td>
              <td>
                {f.side} {f.qty}
              </td>
              <td>{px(f.price)}</td>
              <td>
                {f.liquidity} {f.venue === 'MID' ? 'at the midpoint' : ''}
              </td>
              <td>{f.better > 0 ? `${usd(f.better * f.qty, true)} better` : ''}</td>
              <td>{usd(totalOf(f.costs))}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h3 className="heading">What happened</h3>
      <ol className="text-[13px]">
        {lines.map((l) => (
          <li key={l.key} className="py-[1px]">
            <span className="num mr-2 text-quiet">{clock(l.at)}</span>
            {l.note ? <i>“{l.text}”</i> : l.text}
          </li>
        ))}
      </ol>
    </section>
  );
}
