'use client';

import { useState } from 'react';
import { DEFAULT_FEES, type FeeTable } from '@/core/account';
import { PRICE_SCALE } from '@/core/units';
import { type Kept, keep } from './kept';
import { type NumberField, NumberInput, useNumber } from './number-field';

/** The newest table of fees; another date makes another table. */
export function FeesForm({ account }: { account: Kept }) {
  const last = [...account.fees].sort((a, b) => b.from.localeCompare(a.from))[0] ?? DEFAULT_FEES;
  const [from, setFrom] = useState(last.from);
  const perShare = useNumber(last.perShare / PRICE_SCALE, 0, 1, false);
  const perOrder = useNumber(last.perOrder / PRICE_SCALE, 0, 1_000, false);
  const least = useNumber(last.minimumPerOrder / PRICE_SCALE, 0, 1_000, false);
  const cap = useNumber(last.capBasisPoints / 100, 0, 100, false);
  const remove = useNumber(last.venueRemove / PRICE_SCALE, -1, 1, false);
  const add = useNumber(last.venueAdd / PRICE_SCALE, -1, 1, false);
  const sec = useNumber(last.secPerMillion / PRICE_SCALE, 0, 1_000, false);
  const taf = useNumber(last.tafMicros / 1e6, 0, 1, false);
  const tafMost = useNumber(last.tafMost / PRICE_SCALE, 0, 1_000, false);
  const [said, setSaid] = useState('');
  const fields: [string, NumberField][] = [
    ['Commission a share, $', perShare],
    ['Commission an order, $', perOrder],
    ['At least an order, $', least],
    ['At most, % of the value', cap],
    ['Taking, a share, $', remove],
    ['Resting, a share, $', add],
    ['SEC fee, $ a million sold', sec],
    ['TAF, $ a share sold', taf],
    ['TAF at most, $', tafMost],
  ];
  const dateBad = !/^\d{4}-\d\d-\d\d$/.test(from);
  const bad = dateBad || fields.some(([, f]) => f.bad);
  const units = (f: NumberField) => Math.round((f.value ?? 0) * PRICE_SCALE);
  const save = async () => {
    const table: FeeTable = {
      from,
      perShare: units(perShare),
      perOrder: units(perOrder),
      minimumPerOrder: units(least),
      capBasisPoints: Math.round((cap.value ?? 0) * 100),
      venueRemove: units(remove),
      venueAdd: units(add),
      secPerMillion: units(sec),
      tafMicros: Math.round((taf.value ?? 0) * 1e6),
      tafMost: units(tafMost),
    };
    if (
      await keep(account, account.next ?? account.rules, [
        ...account.fees.filter((t) => t.from !== from),
        table,
      ])
    )
      setSaid(`Kept: holds from ${from} on.`);
  };
  return (
    <details className="mt-3">
      <summary className="heading cursor-pointer">Commissions and fees, from {last.from} on</summary>
      <form
        className="mt-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (!bad) void save();
        }}
      >
        <div className="grid grid-cols-3 gap-x-4 gap-y-2">
          {fields.map(([label, f]) => (
            <NumberInput key={label} f={f} label={label} />
          ))}
        </div>
        <div className="mt-2 flex items-end gap-3">
          <label>
            <span className="block text-[13px] text-quiet">Holds from</span>
            <input
              className="field num w-32"
              value={from}
              aria-invalid={dateBad}
              onChange={(e) => setFrom(e.target.value)}
            />
          </label>
          <button type="submit" className="btn" disabled={bad}>
            Keep the fees
          </button>
          <span className="pb-1 text-[13px] text-quiet" role="status">
            {dateBad
              ? '⚠ A date such as 2027-01-01'
              : said ||
                `${account.fees.length} ${account.fees.length === 1 ? 'table' : 'tables'}; another date makes another one.`}
          </span>
        </div>
      </form>
    </details>
  );
}
