'use client';

import { yupResolver } from '@hookform/resolvers/yup';
import { useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { object, string } from 'yup';
import { SECTORS } from '@/core/market';
import type { VerticalFound } from '@/worker/session/session-messages';
import { ask, focusOn } from '../client';
import { avg, shortName, usd } from '../format';
import { Choice } from '../primitives/Choice';
import { NumberInput, numberIn, numberOf } from '../primitives/NumberField';
import { useTicketText } from '../trade/ticket-text';

const schema = object({
  rank: numberIn(0, 100),
  from: numberIn(0, 10_000),
  to: numberIn(0, 10_000),
  days: numberIn(1, 280),
  delta: numberIn(1, 99),
  width: numberIn(0.5, 500),
  sector: string().defined(),
  right: string<'put' | 'call'>().oneOf(['put', 'call']).required(),
});

/** Companies whose options are dear against their year, each with the vertical that would be sold; a press brings it into the ticket. */
export function FindVerticals({ taken }: { taken(): void }) {
  const [found, setFound] = useState<{ rows: VerticalFound[]; fit: number } | 'looking' | null>(null);
  const form = useForm({
    resolver: yupResolver(schema),
    mode: 'onChange',
    defaultValues: {
      rank: '60',
      from: '20',
      to: '500',
      days: '45',
      delta: '30',
      width: '5',
      sector: '',
      right: 'put' as const,
    },
  });
  const look = form.handleSubmit(async (f) => {
    setFound('looking');
    const n = (text: string) => numberOf(text) ?? 0;
    const answer = await ask({
      kind: 'find verticals',
      asked: {
        rank: n(f.rank),
        from: n(f.from),
        to: n(f.to),
        sector: f.sector,
        days: Math.round(n(f.days)),
        delta: Math.round(n(f.delta)),
        width: String(n(f.width)),
        right: f.right,
      },
    });
    setFound(answer && { rows: answer.rows, fit: answer.fit });
  });
  const take = async (row: VerticalFound) => {
    useTicketText
      .getState()
      .set(`short 1 vertical of ${row.text} at mid credit\n  once filled: close all at half the credit gtc`);
    await focusOn(row.symbol);
    taken();
  };
  return (
    <div className="flex min-h-0 grow flex-col px-3 py-2">
      <form className="flex flex-wrap items-end gap-3" onSubmit={look} aria-label="Verticals to look for">
        <NumberInput form={form} name="rank" label="IV rank from" />
        <NumberInput form={form} name="from" label="Price from, $" />
        <NumberInput form={form} name="to" label="to, $" />
        <NumberInput form={form} name="days" label="Days" />
        <NumberInput form={form} name="delta" label="Delta sold" />
        <NumberInput form={form} name="width" label="Width, $" />
        <div>
          <span className="block text-[13px] text-quiet">Sell</span>
          <Controller
            control={form.control}
            name="right"
            render={({ field }) => (
              <Choice<'put' | 'call'>
                label="Sell"
                className="w-24"
                value={field.value}
                options={[
                  ['put', 'puts'],
                  ['call', 'calls'],
                ]}
                change={field.onChange}
              />
            )}
          />
        </div>
        <div>
          <span className="block text-[13px] text-quiet">Sector</span>
          <Controller
            control={form.control}
            name="sector"
            render={({ field }) => (
              <Choice<string>
                label="Sector"
                className="w-36"
                value={field.value === '' ? 'any' : field.value}
                options={[['any', 'any'], ...SECTORS.map((s) => [s, s] as const)]}
                change={(v) => field.onChange(v === 'any' ? '' : v)}
              />
            )}
          />
        </div>
        <button type="submit" className="btn" disabled={!form.formState.isValid || found === 'looking'}>
          Find
        </button>
      </form>
      <div className="mt-2 min-h-0 grow overflow-auto">
        {found === 'looking' && <p className="text-quiet">Looking through the market.</p>}
        {found === null && (
          <p className="text-quiet">
            Find lists companies by their IV rank, each with the vertical that would be sold now. A row brings
            it into the ticket, with an order that buys it back at half the credit.
          </p>
        )}
        {found !== null && found !== 'looking' && (
          <>
            <p className="text-[12px] text-quiet">
              {found.fit === 0
                ? 'None fits. A lower rank or a wider price band finds more.'
                : `${found.fit} fit; ${found.rows.length} of them with such a vertical, the highest rank first.`}
            </p>
            {found.rows.length > 0 && <Rows rows={found.rows} take={take} />}
          </>
        )}
      </div>
    </div>
  );
}

function Rows({ rows, take }: { rows: readonly VerticalFound[]; take(row: VerticalFound): void }) {
  return (
    <table className="w-full text-[12.5px]">
      <thead className="text-left text-quiet">
        <tr>
          <th className="font-normal">symbol</th>
          <th className="text-right font-normal">price</th>
          <th className="text-right font-normal">IV</th>
          <th className="text-right font-normal">rank</th>
          <th className="pl-4 font-normal">would be sold</th>
          <th className="text-right font-normal">credit</th>
          <th className="text-right font-normal">at worst</th>
          <th className="text-right font-normal">profit in</th>
          <th className="pl-4 font-normal">power</th>
        </tr>
      </thead>
      <tbody className="num">
        {rows.map((row) => (
          <tr key={row.symbol} className="border-line border-t">
            <td>
              <button type="button" className="font-bold hover:underline" onClick={() => take(row)}>
                {row.symbol}
              </button>{' '}
              <span className="font-sans text-[11px] text-quiet">
                {row.sector}
                {row.held && <span className="text-focus"> · held</span>}
              </span>
            </td>
            <td className="text-right">{avg(row.spot)}</td>
            <td className="text-right">{(row.iv * 100).toFixed(0)}%</td>
            <td className="text-right">{row.rank.toFixed(0)}</td>
            <td className="pl-4">{shortName(row.name).slice(row.symbol.length + 1)}</td>
            <td className="text-right">{(row.mid / 10_000).toFixed(2)}</td>
            <td className="text-right">
              {usd(Math.round(row.least))} = {row.r.toFixed(1)}R
            </td>
            <td className="text-right">{(row.profit * 100).toFixed(0)}%</td>
            <td className="pl-4">
              {row.affordable ? usd(Math.round(row.needs)) : `⚠ needs ${usd(Math.round(row.needs))}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
