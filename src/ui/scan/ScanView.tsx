'use client';

import { useRouter } from 'next/navigation';
import { SCAN_FIELDS } from '@/core/scan';
import { clock } from '../format';
import { useSession } from '../session';
import { useSettings } from '../settings';
import { ScanTable } from './ScanTable';
import { useScan } from './useScan';

/** The scan: one rule in the script language, its candidates, and the news of the one in focus. */
export function ScanView() {
  const problem = useScan();
  const scan = useSettings((s) => s.scan);
  const set = useSettings((s) => s.set);
  const found = useSession((s) => s.scan);
  const router = useRouter();
  return (
    <main className="grid h-full grid-rows-[auto_1fr] gap-1.5 p-1.5">
      <h1 className="sr-only">Scan</h1>
      <section className="panel px-3 py-2" aria-label="Scan rule">
        <div className="flex items-end gap-3">
          <label className="grow">
            <span className="heading block">A candidate passes when</span>
            <input
              className="field num mt-1 w-full text-[15px]"
              spellCheck={false}
              value={scan.rule}
              aria-invalid={problem !== null}
              aria-describedby="rule-says"
              onChange={(e) => set({ scan: { ...scan, rule: e.target.value } })}
            />
          </label>
          <label>
            <span className="heading block">ranked by</span>
            <select className="field mt-1" value={scan.rankBy} onChange={(e) => set({ scan: { ...scan, rankBy: e.target.value } })}>
              {SCAN_FIELDS.map((f) => (
                <option key={f.name}>{f.name}</option>
              ))}
            </select>
          </label>
        </div>
        <div id="rule-says" className="num min-h-6 pt-1 text-[13px]" aria-live="polite">
          {problem ? (
            <p data-testid="rule-problem">
              <span className="text-quiet">{scan.rule.slice(0, problem.from)}</span>
              <span className="text-down underline decoration-wavy">{scan.rule.slice(problem.from, problem.to) || '▯'}</span>
              <span className="ml-3 font-sans">⚠ {problem.problem} The list below still follows the last rule that could be read.</span>
            </p>
          ) : (
            <p className="text-quiet">
              {found ? `${found.rows.length} of ${found.total} symbols pass` : 'The first pass is under way.'}
              {found?.clauses.map((c) => (
                <span key={c.from} className="ml-4">
                  {scan.rule.slice(c.from, c.to)}: <span className="text-text">{c.passing}</span>
                </span>
              ))}
            </p>
          )}
        </div>
      </section>
      <div className="grid min-h-0 grid-cols-[1fr_300px] gap-1.5">
        <ScanTable open={() => router.push('/desk')} />
        <Candidate />
      </div>
    </main>
  );
}

function Candidate() {
  const focus = useSession((s) => s.focus);
  const news = useSession((s) => s.news);
  const shortlist = useSettings((s) => s.shortlist);
  const set = useSettings((s) => s.set);
  if (!focus) return <aside className="panel p-3 text-quiet">Choose a candidate.</aside>;
  const mine = news?.filter((n) => n.symbol === focus.symbol) ?? [];
  const listed = shortlist.includes(focus.symbol);
  const digits = focus.instrument.priorClose < 10_000 ? 4 : 2;
  const p = (v: number | null) => (v === null ? '–' : (v / 10_000).toFixed(digits));
  const facts: [string, string][] = [
    ['Pre-market high', p(focus.premarketHigh)],
    ['Pre-market low', p(focus.premarketLow)],
    ['VWAP', p(focus.vwap)],
    ['Prior close', p(focus.instrument.priorClose)],
    ['Prior high', p(focus.instrument.priorHigh)],
    ['Prior low', p(focus.instrument.priorLow)],
    ['Float', `${(focus.instrument.float / 1e6).toFixed(1)}M`],
    ['ATR (14 days)', p(focus.instrument.atr)],
  ];
  return (
    <aside className="panel overflow-y-auto px-3 py-2" aria-label="Candidate">
      <h2 className="num text-lg font-bold text-focus">{focus.symbol}</h2>
      <p className="text-quiet">
        {focus.instrument.name} · {focus.instrument.sector}
      </p>
      <button
        type="button"
        className="btn mt-2 w-full"
        aria-pressed={listed}
        onClick={() => set({ shortlist: listed ? shortlist.filter((s) => s !== focus.symbol) : [...shortlist, focus.symbol] })}
      >
        {listed ? 'Take off the shortlist' : 'Add to the shortlist'} (L)
      </button>
      <dl className="mt-3 grid grid-cols-[1fr_auto] gap-y-1">
        {facts.map(([k, v]) => (
          <div key={k} className="contents">
            <dt className="text-quiet">{k}</dt>
            <dd className="num text-right">{v}</dd>
          </div>
        ))}
      </dl>
      <h3 className="heading mt-4">News today</h3>
      {mine.length === 0 && <p className="text-quiet">None.</p>}
      {mine.map((n) => (
        <p key={n.at} className="mt-1">
          <span className="num mr-2 text-quiet">{clock(n.at, 'minutes')}</span>
          <span className="mr-2 font-semibold">{n.kind}</span>
          {n.headline}
        </p>
      ))}
    </aside>
  );
}
