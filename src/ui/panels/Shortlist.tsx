'use client';

import Link from 'next/link';
import { keyOf } from '@/store/keys';
import { act, focusOn, useSession } from '../client';
import { signed } from '../format';
import { chordName, stagedChord } from '../hands/chords';
import { useHidden, useShortlist } from '../lists';
import { useSettings } from '../settings';
import { useTable } from '../table/useTable';

const COLUMNS = ['price', 'from premarket high', 'change'];

interface Row {
  price: number;
  away: number;
  change: number;
}
const known = (x: number | undefined): x is number => x !== undefined && !Number.isNaN(x);
const dollars = (x: number | undefined): string => (known(x) ? x.toFixed(x < 1 ? 4 : 2) : '–');
const percent = (x: number | undefined): string => (known(x) ? signed(x, 1, '%') : '');

/** Today's shortlist; while it is empty, the leaders of the scan last shown stand in for it. */
export function Shortlist() {
  const shortlist = useShortlist();
  const hidden = useHidden();
  const scan = useSettings((s) => s.scans.find((x) => s.shown === `scan:${x.id}`) ?? s.scans[0]);
  const listed = shortlist.length > 0;
  useTable({
    source:
      listed || !scan
        ? { kind: 'list', symbols: shortlist.map((r) => r.symbol) }
        : {
            kind: 'scan',
            rule: scan.rule,
            ranking: scan.ranking,
            from: scan.from,
            to: scan.to,
            limit: 40,
            hidden,
          },
    columns: COLUMNS,
    sort: null,
  });
  const table = useSession((s) => s.table);
  const names = useSession((s) => s.symbols);
  const values = new Map<string, Row>();
  const column = (name: string) => table?.columns[table.asked.columns.indexOf(name)];
  const [price, away, change] = COLUMNS.map(column);
  table?.who.forEach((i, at) => {
    const of = (list: typeof price) => list?.[at] ?? Number.NaN;
    values.set(names?.[i] ?? '', { price: of(price), away: of(away), change: of(change) });
  });
  const symbols = listed
    ? shortlist.map((r) => r.symbol)
    : table?.asked.source.kind === 'scan'
      ? [...values.keys()]
      : [];
  return (
    <section className="panel flex h-full min-h-0 flex-col px-3 py-2" aria-label="Shortlist">
      <div className="flex items-baseline">
        <h2 className="heading" title={listed ? undefined : 'Leaders of the scan'}>
          {listed ? 'Shortlist' : 'Leaders'}
        </h2>
        {symbols.length > 0 && (
          <span className="ml-auto text-[12px] whitespace-nowrap text-quiet">last · to pm high · today</span>
        )}
      </div>
      {symbols.length === 0 && (
        <p className="pt-1 text-quiet">
          Nothing passes the scan.{' '}
          <Link className="underline" href="/scan" prefetch={false}>
            Loosen its rule
          </Link>
          .
        </p>
      )}
      <ul className="@container min-h-0 overflow-y-auto">
        {symbols.map((symbol) => (
          <li key={symbol}>
            <Candidate
              symbol={symbol}
              row={values.get(symbol)}
              mark={shortlist.find((r) => r.symbol === symbol)?.grade ?? ''}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A symbol with its price and the way to its level; where there is room, what is drafted for it, with its key. */
function Candidate({ symbol, row, mark }: { symbol: string; row: Row | undefined; mark: string }) {
  const focus = useSession((s) => s.focus?.symbol);
  const waiting = useSession((s) => s.waits?.waiting.find((w) => w.symbol === symbol));
  const place = useSession((s) => s.desk?.staged.findIndex((x) => x.symbol === symbol) ?? -1);
  const staged = useSession((s) => s.desk?.staged[place]);
  const draft = useSettings((s) =>
    s.scripts.find((x) => x.id === `draft-${symbol}-long` || x.id === `draft-${symbol}-short`),
  );
  const chord = useSettings((s) => (draft ? keyOf(s, draft.id) : ''));
  const ready = waiting
    ? { how: '⧗ armed', text: waiting.text, key: '', near: waiting.near }
    : staged
      ? { how: '✋ staged', text: staged.text, key: chordName(stagedChord(place + 1) ?? ''), near: '' }
      : draft
        ? { how: '✎ drafted', text: draft.text, key: chordName(chord), near: '' }
        : null;
  const send = () => {
    if (staged) void act(`send staged order ${staged.id}`, 'buttons', 'Staged');
    else if (draft && !waiting) void act(`focus ${symbol}\n${draft.text}`, 'buttons', draft.name);
  };
  return (
    <>
      <button
        type="button"
        aria-pressed={symbol === focus}
        onClick={() => void focusOn(symbol)}
        className={`num grid w-full grid-cols-[1fr_40px_46px_48px] gap-0.5 px-0.5 py-[2px] text-left text-[12px] leading-[19px] hover:bg-raised ${symbol === focus ? 'text-focus' : ''}`}
      >
        <span className="truncate">
          {symbol} {mark && <span className="text-quiet">{mark}</span>}
          {staged && <span title="staged"> ✋</span>}
          {waiting && (
            <span title="an order waits for a condition" className="text-condition">
              {' '}
              ⧗
            </span>
          )}
        </span>
        <span className="text-right text-text">{dollars(row?.price)}</span>
        <span className="text-right text-quiet" title="To the pre-market high">
          {percent(row?.away)}
        </span>
        <span className={`text-right ${(row?.change ?? 0) >= 0 ? 'text-up' : 'text-down'}`}>
          {percent(row?.change)}
        </span>
      </button>
      {ready && (
        <div className="mb-1 hidden items-baseline gap-2 border-b border-line px-0.5 pb-1 text-[12px] @[340px]:flex">
          <span className={waiting ? 'text-condition' : 'text-quiet'}>{ready.how}</span>
          <code className="num min-w-0 grow truncate" title={ready.text}>
            {ready.text.replaceAll('\n', ', ')}
          </code>
          {ready.near !== '' && <span className="shrink-0 text-quiet">{ready.near}</span>}
          {ready.key !== '' && <kbd className="num shrink-0 text-focus">{ready.key}</kbd>}
          {!waiting && (
            <button type="button" className="btn shrink-0 px-1.5 py-0" onClick={send}>
              Send
            </button>
          )}
        </div>
      )}
    </>
  );
}
