'use client';

import { yupResolver } from '@hookform/resolvers/yup';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { object, string } from 'yup';
import { DEFAULT_FEES, type FeeTable } from '@/core/account';
import { PRICE_SCALE } from '@/core/units';
import { NumberInput, numberIn, numberOf, startText } from '../primitives/NumberField';
import { type Kept, keep } from './kept';

const schema = object({
  from: string()
    .required('A date such as 2027-01-01')
    .matches(/^\d{4}-\d\d-\d\d$/, 'A date such as 2027-01-01'),
  perShare: numberIn(0, 1),
  perOrder: numberIn(0, 1_000),
  least: numberIn(0, 1_000),
  cap: numberIn(0, 100),
  remove: numberIn(-1, 1),
  add: numberIn(-1, 1),
  sec: numberIn(0, 1_000),
  taf: numberIn(0, 1),
  tafMost: numberIn(0, 1_000),
  contract: numberIn(0, 100),
  contractVenue: numberIn(-10, 10),
  contractTaf: numberIn(0, 1),
});

const FIELDS = [
  ['perShare', 'Commission a share, $'],
  ['perOrder', 'Commission an order, $'],
  ['least', 'At least an order, $'],
  ['cap', 'At most, % of the value'],
  ['remove', 'Taking, a share, $'],
  ['add', 'Resting, a share, $'],
  ['sec', 'SEC fee, $ a million sold'],
  ['taf', 'TAF, $ a share sold'],
  ['tafMost', 'TAF at most, $'],
  ['contract', 'Commission a contract, $'],
  ['contractVenue', 'Exchange and clearing, a contract, $'],
  ['contractTaf', 'TAF, $ a contract sold'],
] as const;

const dollars = (units: number): string => startText(units / PRICE_SCALE);
const units = (text: string): number => Math.round((numberOf(text) ?? 0) * PRICE_SCALE);

/** The newest table of fees; another date makes another table. */
export function FeesForm({ account }: { account: Kept }) {
  const last = [...account.fees].sort((a, b) => b.from.localeCompare(a.from))[0] ?? DEFAULT_FEES;
  const [said, setSaid] = useState('');
  const form = useForm({
    resolver: yupResolver(schema),
    mode: 'onChange',
    defaultValues: {
      from: last.from,
      perShare: dollars(last.perShare),
      perOrder: dollars(last.perOrder),
      least: dollars(last.minimumPerOrder),
      cap: startText(last.capBasisPoints / 100),
      remove: dollars(last.venueRemove),
      add: dollars(last.venueAdd),
      sec: dollars(last.secPerMillion),
      taf: startText(last.tafMicros / 1e6),
      tafMost: dollars(last.tafMost),
      contract: dollars(last.perContract ?? DEFAULT_FEES.perContract ?? 0),
      contractVenue: dollars(last.venueContract ?? DEFAULT_FEES.venueContract ?? 0),
      contractTaf: startText((last.tafContractMicros ?? DEFAULT_FEES.tafContractMicros ?? 0) / 1e6),
    },
  });
  const save = form.handleSubmit(async (f) => {
    const table: FeeTable = {
      from: f.from,
      perShare: units(f.perShare),
      perOrder: units(f.perOrder),
      minimumPerOrder: units(f.least),
      capBasisPoints: Math.round((numberOf(f.cap) ?? 0) * 100),
      venueRemove: units(f.remove),
      venueAdd: units(f.add),
      secPerMillion: units(f.sec),
      tafMicros: Math.round((numberOf(f.taf) ?? 0) * 1e6),
      tafMost: units(f.tafMost),
      perContract: units(f.contract),
      venueContract: units(f.contractVenue),
      tafContractMicros: Math.round((numberOf(f.contractTaf) ?? 0) * 1e6),
    };
    const fees = [...account.fees.filter((t) => t.from !== f.from), table];
    if (await keep(account, account.next ?? account.rules, fees)) setSaid(`Kept: holds from ${f.from} on.`);
  });
  const { errors, isValid } = form.formState;
  return (
    <details className="mt-3">
      <summary className="heading cursor-pointer">Commissions and fees, from {last.from} on</summary>
      <form className="mt-2" onSubmit={save}>
        <div className="grid grid-cols-3 gap-x-4 gap-y-2">
          {FIELDS.map(([name, label]) => (
            <NumberInput key={name} form={form} name={name} label={label} />
          ))}
        </div>
        <div className="mt-2 flex items-end gap-3">
          <label>
            <span className="block text-[13px] text-quiet">Holds from</span>
            <input
              className="field num w-32"
              aria-invalid={errors.from !== undefined}
              {...form.register('from')}
            />
          </label>
          <button type="submit" className="btn" disabled={!isValid}>
            Keep the fees
          </button>
          <span className="pb-1 text-[13px] text-quiet" role="status">
            {errors.from
              ? `⚠ ${errors.from.message}`
              : said ||
                `${account.fees.length} ${account.fees.length === 1 ? 'table' : 'tables'}; another date makes another one.`}
          </span>
        </div>
      </form>
    </details>
  );
}
