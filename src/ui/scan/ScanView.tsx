'use client';

import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { SavedScan } from '@/store/settings';
import type { TableAsked } from '@/worker/session/slices';
import { changeScan, setHidden, useHidden } from '../lists';
import { useSettings } from '../settings';
import { useTable } from '../table/useTable';
import { CandidateSheet } from './CandidateSheet';
import { ContextStrip } from './ContextStrip';
import { ListTable } from './ListTable';
import { MarketTable, useTableFocus } from './MarketTable';
import { Rail } from './Rail';
import { ScanHead } from './ScanHead';
import type { TableLook } from './table-look';

const AlertForm = dynamic(() => import('../alerts/AlertForm').then((m) => m.AlertForm), { ssr: false });
const RankLines = dynamic(() => import('./RankLines'), {
  ssr: false,
  loading: () => <section className="panel p-4 text-quiet">The picture is loading.</section>,
});

/** Before the open: a scan or a list as a live table, and the sheet of the candidate in focus. */
export function ScanView() {
  const shown = useSettings((s) => s.shown);
  const scans = useSettings((s) => s.scans);
  const scan = shown.startsWith('scan:')
    ? (scans.find((s) => `scan:${s.id}` === shown) ?? scans[0])
    : undefined;
  const [alerting, setAlerting] = useState<string | null>(null);
  return (
    <main className="grid h-full grid-cols-[160px_minmax(0,1fr)_366px] grid-rows-[auto_minmax(0,1fr)] gap-1.5 p-1.5">
      <h1 className="sr-only">Scan</h1>
      <div className="col-span-3">
        <ContextStrip />
      </div>
      <Rail />
      {scan ? (
        <OneScan key={scan.id} scan={scan} alert={setAlerting} />
      ) : (
        <ListTable key={shown} alert={setAlerting} />
      )}
      <CandidateSheet alert={setAlerting} />
      {alerting !== null && <AlertForm symbol={alerting} close={() => setAlerting(null)} />}
    </main>
  );
}

function OneScan({ scan, alert }: { scan: SavedScan; alert(symbol: string): void }) {
  const router = useRouter();
  const hidden = useHidden();
  const [picture, show] = useState<'table' | 'lines'>('table');
  const { rule, ranking, from, to, limit } = scan;
  const asked: TableAsked = {
    source: { kind: 'scan', rule, ranking, from, to, limit, hidden },
    columns: scan.columns,
    sort: scan.sort,
  };
  const problem = useTable(asked);
  useTableFocus(scan.name);
  const look: TableLook = {
    columns: scan.columns,
    widths: scan.widths,
    sort: scan.sort,
    change: (l) => changeScan(scan.id, l),
  };
  return (
    <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)] gap-1.5">
      <ScanHead scan={scan} problem={problem} picture={picture} show={show} />
      {picture === 'table' ? (
        <MarketTable
          label={scan.name}
          look={look}
          open={() => router.push('/desk')}
          hide={(symbol) => setHidden((all) => [...all, symbol])}
          alert={alert}
          empty="No symbol passes now. Above stands what each clause lets through, and which one is the tightest."
        />
      ) : (
        <RankLines scan={scan} hidden={hidden} />
      )}
    </div>
  );
}
