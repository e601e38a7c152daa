// biome-ignore-all lint/a11y/useFocusableInteractive: what can be done in a row is a button of its own
'use client';

import {
  columnVisibilityFeature,
  createSortedRowModel,
  rowSelectionFeature,
  rowSortingFeature,
  sortFn_alphanumeric,
  sortFn_basic,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { act, useSession } from '../client';
import { Pop } from '../primitives/Pop';
import { useSettings } from '../settings';
import { Cell, cancelSentence, Doing } from './OrderCells';
import { editable, type OrderRow, orderRows, STANDS, type Stand } from './order-rows';

const features = tableFeatures({
  rowSortingFeature,
  rowSelectionFeature,
  columnVisibilityFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic },
});
const NONE: never[] = [];
const NOTHING = {};
const ROW = 24;

/** Columns: name, heading, width in the grid, whether it is a number. */
const COLUMNS: readonly [keyof OrderRow & string, string, string, boolean][] = [
  ['id', '#', '36px', true],
  ['at', 'time', '76px', true],
  ['symbol', 'symbol', '60px', false],
  ['side', 'side', '40px', false],
  ['what', 'what', 'minmax(60px,1fr)', false],
  ['qty', 'size', '84px', true],
  ['price', 'price', '66px', true],
  ['limit', 'limit', '64px', true],
  ['average', 'average', '70px', true],
  ['life', 'life', '40px', false],
  ['route', 'route', '44px', false],
  ['ahead', 'ahead', '54px', true],
  ['status', 'status', 'minmax(80px,1fr)', false],
  ['account', 'account', '108px', false],
];
const HEADS = new Map(COLUMNS.map(([id, head]) => [id as string, head]));
const COLUMN_DEFS = COLUMNS.map(([id, header, , number]) => ({
  id,
  header,
  accessorFn: (r: OrderRow) => r[id] as string | number | null,
  sortFn: (number ? 'basic' : 'alphanumeric') as 'basic',
}));

/** Every order in one table: what works, waits, filled or ended, today and before; changed where it stands. */
export function OrdersTable() {
  const orders = useSession((s) => s.book?.orders) ?? NONE;
  const waiting = useSession((s) => s.waits?.waiting) ?? NONE;
  const ahead = useSession((s) => s.marks?.ahead) ?? NOTHING;
  const accounts = useSession((s) => s.desk?.accounts);
  const focus = useSession((s) => s.focus?.symbol);
  const hidden = useSettings((s) => s.ordersHidden);
  const set = useSettings((s) => s.set);
  const [stands, setStands] = useState<readonly Stand[]>(['working', 'waiting']);
  const [account, setAccount] = useState('');
  const [mine, setMine] = useState(false);
  const names = useMemo(
    () => Object.fromEntries((accounts ?? []).map((a) => [a.id, a.rules.name])),
    [accounts],
  );
  const rows = useMemo(
    () =>
      orderRows(orders, waiting, ahead, names).filter(
        (r) =>
          stands.includes(r.stand) &&
          (!mine || r.symbol === focus) &&
          (account === '' || r.account === account),
      ),
    [orders, waiting, ahead, names, stands, mine, focus, account],
  );
  const visibility = useMemo(() => Object.fromEntries(hidden.map((c) => [c, false])), [hidden]);
  const table = useTable({
    features,
    columns: COLUMN_DEFS,
    data: rows,
    getRowId: (r) => r.key,
    state: { columnVisibility: visibility },
    enableRowSelection: ({ original: r }) => editable(r) || r.stand === 'waiting',
  });
  const box = useRef<HTMLDivElement>(null);
  const list = table.getRowModel().rows;
  const virtual = useVirtualizer({
    count: list.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const shown = table.getVisibleLeafColumns().map((c) => c.id);
  const grid = {
    gridTemplateColumns: `24px ${COLUMNS.filter(([id]) => shown.includes(id))
      .map(([, , width]) => width)
      .join(' ')} 108px`,
  };
  const chosen = list.filter((r) => r.getIsSelected()).map((r) => r.original);
  const counts = useMemo(() => countsOf(orders, waiting.length), [orders, waiting.length]);
  return (
    <section className="panel flex h-full min-h-0 flex-col px-2 py-1" aria-label="Orders">
      <div className="flex items-center gap-1.5 pb-1 text-[13px] whitespace-nowrap">
        <h2 className="heading mr-1">Orders</h2>
        {STANDS.map((s) => (
          <button
            key={s}
            type="button"
            className="btn px-1.5 py-0"
            aria-pressed={stands.includes(s)}
            onClick={() => setStands(stands.includes(s) ? stands.filter((x) => x !== s) : [...stands, s])}
          >
            {s} <span className="num text-quiet">{counts[s]}</span>
          </button>
        ))}
        <button type="button" className="btn px-1.5 py-0" aria-pressed={mine} onClick={() => setMine(!mine)}>
          {focus} only
        </button>
        {(accounts?.length ?? 0) > 1 && (
          <Pop title="Account" label={account || 'all accounts'} className="btn px-1.5 py-0">
            <div className="grid gap-1 p-2">
              {['', ...Object.values(names)].map((n) => (
                <button
                  key={n}
                  type="button"
                  className="btn text-left"
                  aria-pressed={n === account}
                  onClick={() => setAccount(n)}
                >
                  {n || 'all accounts'}
                </button>
              ))}
            </div>
          </Pop>
        )}
        <Pop title="Columns of the orders" label="columns" className="btn px-1.5 py-0">
          <div className="grid grid-cols-2 gap-1 p-2 text-[13px]">
            {COLUMNS.map(([id, head]) => (
              <button
                key={id}
                type="button"
                className="btn text-left"
                aria-pressed={!hidden.includes(id)}
                onClick={() =>
                  set({
                    ordersHidden: hidden.includes(id) ? hidden.filter((c) => c !== id) : [...hidden, id],
                  })
                }
              >
                {head}
              </button>
            ))}
          </div>
        </Pop>
        {chosen.length > 0 && (
          <button
            type="button"
            className="btn ml-auto px-1.5 py-0 font-semibold"
            onClick={() => {
              void act(chosen.map(cancelSentence).join('\n'), 'buttons', 'Orders');
              table.resetRowSelection();
            }}
          >
            Cancel {chosen.length} chosen
          </button>
        )}
      </div>
      <div ref={box} className="min-h-0 grow overflow-auto text-[13px]" role="table" aria-label="Orders">
        <div className="min-w-[560px]" role="rowgroup">
          <div className="sticky top-0 z-10 grid bg-panel text-quiet" style={grid} role="row">
            <span role="columnheader">
              <span className="sr-only">chosen</span>
            </span>
            {table.getVisibleLeafColumns().map((c) => (
              <span
                key={c.id}
                role="columnheader"
                aria-sort={
                  c.getIsSorted() === 'asc' ? 'ascending' : c.getIsSorted() === 'desc' ? 'descending' : 'none'
                }
              >
                <button
                  type="button"
                  className={`w-full truncate pr-1.5 hover:text-text ${isNumber(c.id) ? 'text-right' : 'text-left'}`}
                  onClick={c.getToggleSortingHandler()}
                >
                  {HEADS.get(c.id)}
                  {{ asc: ' ▲', desc: ' ▼' }[c.getIsSorted() as string] ?? ''}
                </button>
              </span>
            ))}
            <span role="columnheader">
              <span className="sr-only">what can be done</span>
            </span>
          </div>
        </div>
        {list.length === 0 && (
          <p className="p-2 text-quiet">
            Nothing {stands.length > 0 ? stands.join(' or ') : 'is chosen to be shown'}
            {mine ? ` in ${focus}` : ''}. The rack, the ticket, the chart and the ladder send orders.
          </p>
        )}
        <div className="relative min-w-[560px]" style={{ height: virtual.getTotalSize() }} role="rowgroup">
          {virtual.getVirtualItems().map((v) => {
            const row = list[v.index];
            if (!row) return null;
            return (
              <div
                key={row.id}
                role="row"
                className={`absolute inset-x-0 grid items-center border-b border-line ${row.original.symbol === focus ? '' : 'text-quiet'}`}
                style={{ ...grid, height: ROW, top: v.start }}
              >
                <span role="cell">
                  <input
                    type="checkbox"
                    aria-label={`Choose ${row.original.key}`}
                    checked={row.getIsSelected()}
                    disabled={!row.getCanSelect()}
                    onChange={row.getToggleSelectedHandler()}
                  />
                </span>
                {shown.map((id) => (
                  <span
                    key={id}
                    role="cell"
                    className={`min-w-0 truncate pr-1.5 ${isNumber(id) ? 'num text-right' : ''}`}
                  >
                    <Cell row={row.original} column={id} />
                  </span>
                ))}
                <Doing row={row.original} />
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}

const isNumber = (id: string): boolean => COLUMNS.find(([c]) => c === id)?.[3] ?? false;

function countsOf(orders: Parameters<typeof orderRows>[0], waiting: number): Record<Stand, number> {
  const out = { working: 0, waiting, filled: 0, ended: 0 };
  for (const r of orderRows(orders, [], {}, {})) out[r.stand]++;
  return out;
}
