'use client';

import { Bell } from 'lucide-react';
import Link from 'next/link';
import { fieldOf, fieldText, ivRank } from '@/core/market';
import { toDollars } from '@/core/units';
import type { ListRow } from '@/store/settings';
import { useLive, useSession } from '../client';
import { avg, clock, count } from '../format';
import { grade, toggleShortlist, useShortlist } from '../lists';
import { useSettings } from '../settings';
import { Draft } from './Draft';
import { Levels } from './Levels';
import { SheetCharts } from './SheetCharts';

/** Everything about the candidate in focus: why it is here, its days and its morning, levels, news, numbers, grade, note, and a trade to start from. */
export function CandidateSheet({ alert }: { alert(symbol: string): void }) {
  const symbol = useSession((s) => s.focus?.symbol);
  // Only what is shown: the focus itself changes with every print.
  const about = useSession((s) =>
    s.focus ? `${s.focus.instrument.name} · ${s.focus.instrument.sector}` : '',
  );
  const atr = useSession((s) => s.focus?.instrument.atr ?? 0);
  const told = useLive<'sheet'>({ kind: 'sheet', symbol: null });
  const sheet = told && told.symbol === symbol ? told.sheet : null;
  const inScan = useSettings((s) => (s.shown.startsWith('scan:') ? s.shown.slice('scan:'.length) : null));
  const listed = useShortlist().find((r) => r.symbol === symbol);
  if (!symbol)
    return (
      <aside className="panel p-3 text-quiet" aria-label="Candidate">
        Choose a candidate in the table.
      </aside>
    );
  return (
    <aside className="panel min-h-0 overflow-y-auto px-3 py-2 text-[13px]" aria-label="Candidate">
      <div className="flex items-center gap-2">
        <h2 className="num text-lg leading-6 font-bold text-focus">{symbol}</h2>
        <span className="min-w-0 truncate text-quiet">{about}</span>
        <Link
          className="ml-auto text-quiet underline"
          href={`/rehearse?${inScan ? `scan=${encodeURIComponent(inScan)}` : `symbol=${symbol}`}`}
          prefetch={false}
          title={inScan ? 'Keys on what is in this scan, over many days' : 'Keys on it over many days'}
        >
          Rehearse
        </Link>
      </div>
      <div className="mt-1 flex items-center gap-1">
        <button
          type="button"
          className="btn px-2 py-0.5"
          aria-pressed={listed !== undefined}
          onClick={() => toggleShortlist(symbol)}
        >
          {listed ? '◆ On the shortlist' : 'To the shortlist'}
        </button>
        <Grades symbol={symbol} row={listed} />
        <button
          type="button"
          className="btn ml-auto flex items-center gap-1 px-2 py-0.5"
          onClick={() => alert(symbol)}
        >
          <Bell size={13} aria-hidden /> Alert
        </button>
      </div>
      <Why />
      <SheetCharts symbol={symbol} sheet={sheet} />
      <Levels symbol={symbol} sheet={sheet} atr={atr} />
      <News symbol={symbol} />
      <Draft key={symbol} symbol={symbol} drafts={sheet?.drafts ?? null} />
      <h3 className="heading mt-3">Note for today</h3>
      <textarea
        className="field mt-1 h-14 w-full resize-y"
        aria-label={`Note on ${symbol}`}
        placeholder="What has to happen, and what would prove it wrong"
        value={listed?.note ?? ''}
        onChange={(e) => grade(symbol, { note: e.target.value })}
      />
      <Reference />
    </aside>
  );
}

function Grades({ symbol, row }: { symbol: string; row: ListRow | undefined }) {
  return (
    <fieldset className="ml-2 flex items-center gap-1">
      <legend className="sr-only">Grade</legend>
      <span className="text-quiet">grade</span>
      {(['A', 'B', 'C'] as const).map((g) => (
        <button
          key={g}
          type="button"
          className="btn px-2 py-0.5"
          aria-pressed={row?.grade === g}
          onClick={() => grade(symbol, { grade: row?.grade === g ? '' : g })}
        >
          {g}
        </button>
      ))}
    </fieldset>
  );
}

/** Why it is in the scan, or what keeps it out. */
function Why() {
  const asked = useSession((s) => s.table?.asked);
  const symbol = useSession((s) => s.focus?.symbol);
  const told = useLive<'why'>(asked ? { kind: 'why', symbol: null, table: asked } : null);
  const why = told?.symbol === symbol ? told : null;
  if (asked?.source.kind !== 'scan' || !why) return <p className="mt-1 min-h-5" />;
  const { clauses, place, passing, hidden } = why;
  const out = clauses.filter((c) => !c.passes);
  const says = (c: (typeof clauses)[number]) =>
    `${c.text} (now ${c.values.map((v) => fieldText(fieldOf(v.field), v.value ?? Number.NaN)).join(', ')})`;
  return (
    <p className="mt-1 min-h-5" role="status">
      {hidden ? (
        'Hidden from scans today.'
      ) : out.length === 0 ? (
        <span title={clauses.map(says).join('\n')}>
          In this scan: <b className="num">{place ?? '–'}</b> of <span className="num">{passing}</span>; it
          passes all {clauses.length} clauses.
        </span>
      ) : (
        <>
          Kept out by{' '}
          {out.map((c) => (
            <span key={c.text} className="num mr-2">
              {says(c)}
            </span>
          ))}
        </>
      )}
    </p>
  );
}

function News({ symbol }: { symbol: string }) {
  const news = useSession((s) => s.news);
  const mine = news?.filter((n) => n.symbol === symbol) ?? [];
  return (
    <>
      <h3 className="heading mt-3">News today</h3>
      {mine.length === 0 && <p className="text-quiet">None.</p>}
      {mine.map((n) => (
        <p key={n.at} className="mt-0.5">
          <span className="num mr-2 text-quiet">{clock(n.at, 'minutes')}</span>
          <span className="mr-2 font-semibold">{n.kind}</span>
          {n.headline}
        </p>
      ))}
    </>
  );
}

function Reference() {
  const i = useSession((s) => s.focus?.instrument);
  const restricted = useSession((s) => s.focus?.restricted ?? false);
  const last = useSession((s) => s.focus?.last ?? null);
  if (!i) return null;
  const known = (n: number) => (n === 0 ? 'not known' : count(n));
  const facts: [string, string][] = [
    ['Float', known(i.float)],
    ['Shares', known(i.sharesOutstanding)],
    [
      'Market cap',
      i.sharesOutstanding === 0
        ? 'not known'
        : `$${count(toDollars(last ?? i.priorClose) * i.sharesOutstanding)}`,
    ],
    ['Volume a day', known(i.averageVolume)],
    ['ATR (14)', avg(i.atr)],
    ['Borrow', i.borrow],
    ['Short sales', restricted ? 'restricted' : 'free'],
    ['Band tier', `${i.tier}`],
    ['Options', i.options ? `IV ${(i.options.iv * 100).toFixed(0)}%, rank ${ivRank(i).toFixed(0)}` : 'none'],
  ];
  return (
    <dl className="mt-3 grid grid-cols-[auto_1fr_auto_auto] gap-x-3 gap-y-0.5">
      {facts.map(([k, v]) => (
        <div key={k} className="contents">
          <dt className="whitespace-nowrap text-quiet">{k}</dt>
          <dd className="num whitespace-nowrap">{v}</dd>
        </div>
      ))}
    </dl>
  );
}
