'use client';

import { type KeyboardEvent, type ReactNode, useState } from 'react';
import { PRICE_SCALE, roundToTick, tickSize } from '@/core/units';
import { useLivePeek } from '../editor/LiveSayBack';
import { usd } from '../format';
import { useSession } from '../session';
import { useSettings } from '../settings';
import { fieldsOf, sentenceOf, stepped, type TicketFields } from './ticket-form';

const SIZES: readonly [TicketFields['size']['by'], string][] = [
  ['shares', 'shares'],
  ['dollars', '$'],
  ['R', 'R'],
  ['power', '% power'],
];
const PRICES: readonly [TicketFields['price']['by'], string][] = [
  ['ask', 'ask'],
  ['bid', 'bid'],
  ['mid', 'mid'],
  ['last', 'last'],
  ['limit', 'limit'],
  ['stop', 'stop'],
  ['usual', 'usual through'],
  ['market', 'market'],
];
/** What an arrow key adds to a size, by how it is given; Page keys add ten times that. */
const STEP = { shares: 10, dollars: 100, R: 0.25, power: 1 } as const;

/** The ticket's sentence as a form; arrow keys step prices by a tick and sizes by their own step, Page keys ten times that. */
export function TicketForm({ text, change }: { text: string; change(text: string): void }) {
  const last = useSession((s) => s.focus?.last ?? null);
  const plans = useSettings((s) => s.plans);
  // What is half typed is no sentence yet: the form keeps its own until the text is changed elsewhere.
  const [draft, setDraft] = useState<{ text: string; fields: TicketFields } | null>(null);
  const f = draft?.text === text ? draft.fields : fieldsOf(text);
  if (!f)
    return (
      <p className="text-[13px] text-quiet">
        This sentence says more than the form has room for. Change it as text, or in words.
      </p>
    );
  const set = (c: Partial<TicketFields>) => {
    const fields = { ...f, ...c };
    setDraft({ text: sentenceOf(fields), fields });
    change(sentenceOf(fields));
  };
  const priceBy = (by: TicketFields['price']['by']): TicketFields['price'] => {
    if (by === 'market' || by === 'usual') return { by };
    if (by === 'limit' || by === 'stop') {
      const from = 'value' in f.price ? f.price.value : ((last ?? PRICE_SCALE) / PRICE_SCALE).toFixed(2);
      return { by, value: from };
    }
    return { by, cents: 'cents' in f.price ? f.price.cents : '0' };
  };
  const { size, price } = f;
  return (
    <div className="grid gap-1 text-[13px]">
      <div className="flex gap-1">
        <Choice
          label="Side"
          value={f.verb}
          change={(verb) => set({ verb, price: turned(price, f.verb, verb) })}
        >
          <option value="buy">buy</option>
          <option value="short">short</option>
        </Choice>
        <Stepped
          label="Size"
          value={size.value}
          step={STEP[size.by]}
          least={size.by === 'R' ? 0.25 : 1}
          places={size.by === 'R' ? 2 : 0}
          change={(value) => set({ size: { ...size, value } })}
        />
        <Choice label="Size in" value={size.by} change={(by) => set({ size: { ...size, by } })}>
          {SIZES.map(([by, name]) => (
            <option key={by} value={by}>
              {name}
            </option>
          ))}
        </Choice>
      </div>
      <div className="flex gap-1">
        <Choice label="Price" value={price.by} change={(by) => set({ price: priceBy(by) })}>
          {PRICES.map(([by, name]) => (
            <option key={by} value={by}>
              {name}
            </option>
          ))}
        </Choice>
        {'cents' in price && (
          <Stepped
            label="Cents from it"
            value={price.cents}
            step={1}
            least={-999}
            places={0}
            after="c"
            change={(cents) => set({ price: { ...price, cents } })}
          />
        )}
        {'value' in price && (
          <Stepped
            label={price.by === 'stop' ? 'Stop price' : 'Limit price'}
            value={price.value}
            step={tickSize(roundToTick(last ?? PRICE_SCALE)) / PRICE_SCALE}
            least={0.01}
            places={Number(price.value) < 1 ? 4 : 2}
            change={(value) => set({ price: { ...price, value } })}
          />
        )}
        <label className="ml-auto flex items-center gap-1">
          <input type="checkbox" checked={f.extended} onChange={(e) => set({ extended: e.target.checked })} />
          ext
        </label>
      </div>
      <Choice label="Exits" value={f.plan} change={(plan) => set({ plan })}>
        <option value="">{f.exits === '' ? 'the active plan' : f.exits.replaceAll('\n', ', ')}</option>
        {plans.map((p) => (
          <option key={p.name} value={p.name}>
            plan {p.name}
          </option>
        ))}
      </Choice>
      <FourWays text={text} />
    </div>
  );
}

/** The size in shares, dollars, part of the power and R, as it would be now; or why it cannot go. */
function FourWays({ text }: { text: string }) {
  const peeked = useLivePeek(text);
  const power = useSession((s) => s.account?.buyingPower ?? 0);
  const unit = useSession((s) => s.account?.riskUnit ?? 0);
  const f = peeked?.facts;
  if (peeked?.problem != null)
    return (
      <p className="truncate text-[12px]" title={peeked.problem} role="status">
        ⚠ {peeked.problem}
      </p>
    );
  if (!f || f.price === null) return <p className="text-[12px] text-quiet">…</p>;
  const money = f.qty * f.price;
  const risk = f.stop === null ? null : f.qty * Math.abs(f.price - f.stop);
  const inR = risk === null || unit === 0 ? 'no stop' : `${(risk / unit).toFixed(2)}R`;
  return (
    <p className="num truncate text-[12px] text-quiet" role="status" aria-label="The size four ways">
      {f.qty} · {usd(Math.round(money)).replace(/\.\d\d$/, '')} ·{' '}
      {power > 0 ? ((money / power) * 100).toFixed(1) : '–'}% · {inR}
    </p>
  );
}

/** The same place beside the quote for the other side. */
function turned(
  price: TicketFields['price'],
  from: TicketFields['verb'],
  to: TicketFields['verb'],
): TicketFields['price'] {
  if (from === to || (price.by !== 'ask' && price.by !== 'bid')) return price;
  const cents = Number(price.cents);
  return {
    by: price.by === 'ask' ? 'bid' : 'ask',
    cents: Number.isNaN(cents) ? price.cents : String(-cents),
  };
}

function Choice<T extends string>({
  label,
  value,
  change,
  children,
}: {
  label: string;
  value: T;
  change(value: T): void;
  children: ReactNode;
}) {
  return (
    <select
      className="field min-w-0 grow px-1 py-0.5"
      aria-label={label}
      value={value}
      onChange={(e) => change(e.target.value as T)}
    >
      {children}
    </select>
  );
}

function Stepped({
  label,
  value,
  step,
  least,
  places,
  after = '',
  change,
}: {
  label: string;
  value: string;
  step: number;
  least: number;
  places: number;
  after?: string;
  change(value: string): void;
}) {
  const onKeyDown = (e: KeyboardEvent) => {
    const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    change(stepped(value, by * step, least, places));
  };
  return (
    <span className="flex min-w-0 items-center gap-0.5">
      <input
        className="field num w-[62px] px-1 py-0.5"
        aria-label={label}
        inputMode="decimal"
        value={value}
        onFocus={(e) => e.target.select()}
        onKeyDown={onKeyDown}
        onChange={(e) => /^-?[\d.]*$/.test(e.target.value) && change(e.target.value)}
      />
      {after}
    </span>
  );
}
