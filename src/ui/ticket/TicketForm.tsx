'use client';

import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { positionOf } from '@/core/orders';
import { PRICE_SCALE, roundToTick, tickSize } from '@/core/units';
import { act, usePeek, useSession } from '../client';
import { usd } from '../format';
import { Choice } from '../primitives/Choice';
import { Tick } from '../primitives/Tick';
import { useSettings } from '../settings';
import {
  afterSending,
  closes,
  fieldsOf,
  sentenceOf,
  stepped,
  type TicketFields,
  turned,
  type Verb,
} from '../trade/ticket-form';
import { tradeOf } from '../trade/trade-view';

type SizeBy = TicketFields['size']['by'];
type PriceBy = TicketFields['price']['by'];

const ENTRY_SIZES: readonly [SizeBy, string][] = [
  ['shares', 'shares'],
  ['dollars', '$'],
  ['R', 'R'],
  ['power', '% power'],
];
const CLOSE_SIZES: readonly [SizeBy, string][] = [
  ['shares', 'shares'],
  ['dollars', '$'],
  ['part', 'part'],
];
const PRICES: readonly [PriceBy, string][] = [
  ['ask', 'ask'],
  ['bid', 'bid'],
  ['mid', 'mid'],
  ['last', 'last'],
  ['limit', 'limit'],
  ['stop', 'stop'],
  ['usual', 'usual through'],
  ['market', 'market'],
  ['hidden', 'hidden at mid'],
];
const LIVES: readonly [TicketFields['life'], string][] = [
  ['', 'for the day'],
  ['gtc', 'gtc'],
  ['ioc', 'ioc'],
  ['fok', 'fok'],
];
const PARTS: readonly [string, string][] = ['all', 'half', 'third', 'quarter'].map((p) => [p, p]);
/** What an arrow key adds to a size that is not in shares; Page keys add ten times that. */
const STEP = { dollars: 100, R: 0.25, power: 1 } as const;
/** The sides, with the key that sends the ticket on each while the hands are in it. */
const SIDES: readonly [Verb, string, string][] = [
  ['buy', 'Buy', 'KeyB'],
  ['short', 'Short', 'KeyH'],
  ['sell', 'Sell', 'KeyS'],
  ['cover', 'Cover', 'KeyC'],
];

/** The ticket's sentence as a form; arrow keys step prices by a tick and sizes by their own step, Page keys ten times that. */
export function TicketForm({ text, change }: { text: string; change(text: string): void }) {
  const plans = useSettings((s) => s.plans);
  const follows = useSettings((s) => s.ticketFollows);
  const steps = useSettings((s) => s.ticketSteps);
  const accounts = useSession((s) => s.desk?.accounts);
  // What is half typed is no sentence yet: the form keeps its own until the text is changed elsewhere.
  const [draft, setDraft] = useState<{ text: string; fields: TicketFields } | null>(null);
  const f = draft?.text === text ? draft.fields : fieldsOf(text);
  const focus = useSession((s) => s.focus?.symbol);
  const symbol = f?.symbol || focus;
  const held = useSession((s) => {
    const trade = tradeOf(s.book, symbol, s.account?.id)?.trade;
    return trade?.status === 'open' ? trade.sign * positionOf(trade) : 0;
  });
  const put = (fields: TicketFields) => {
    setDraft({ text: sentenceOf(fields), fields });
    change(sentenceOf(fields));
  };
  const latest = useRef({ f, put });
  latest.current = { f, put };
  const side = Math.sign(held);
  useEffect(() => {
    const now = latest.current;
    if (follows && now.f)
      now.put(
        turned(now.f, side > 0 ? 'sell' : side < 0 ? 'cover' : closes(now.f.verb) ? 'buy' : now.f.verb),
      );
  }, [follows, side]);
  if (!f)
    return (
      <p className="text-[13px] text-quiet">
        This sentence says more than the form has room for. Change it as text, or in words.
      </p>
    );
  const set = (c: Partial<TicketFields>) => put({ ...f, ...c });
  const send = (verb: Verb) => {
    const fields = turned(f, verb);
    put(fields);
    const sent = sentenceOf(fields);
    void act(sent, 'ticket', 'Ticket').then((outcome) => {
      const now = latest.current;
      // Only what is still there is made plain: something else may have been written meanwhile.
      if (outcome === 'sent' && now.f && sentenceOf(now.f) === sent)
        now.put(afterSending(now.f, useSettings.getState().ticketKeeps));
    });
  };
  const { size } = f;
  const out = closes(f.verb);
  return (
    <fieldset
      className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-1 text-[13px]"
      aria-label="The ticket as a form"
      onKeyDown={(e) => {
        const [verb] = SIDES.find(([, , code]) => e.altKey && e.code === code) ?? [];
        if (!verb) return;
        e.preventDefault();
        e.stopPropagation();
        send(verb);
      }}
    >
      <p className="flex items-baseline gap-2" role="status" aria-label="Symbol of the ticket">
        {symbol === focus ? (
          <b className="num text-focus">{symbol}</b>
        ) : (
          <>
            <b
              className="num border border-down px-1 whitespace-nowrap"
              title={`Not ${focus}, which is in focus`}
            >
              ⚠ {symbol}
            </b>
            <button
              type="button"
              className="btn ml-auto px-1 py-0 whitespace-nowrap"
              onClick={() => set({ symbol: '' })}
            >
              Use {focus}
            </button>
          </>
        )}
      </p>
      <div className="flex gap-1">
        <Choice
          label="Side"
          value={f.verb}
          options={SIDES.map(([v]) => [v, v] as const)}
          change={(verb) => put(turned(f, verb))}
          className="w-[68px] shrink-0 px-1 py-0.5"
        />
        {size.by === 'part' ? (
          <Choice
            label="Size"
            value={size.value}
            options={PARTS}
            change={(value) => set({ size: { by: 'part', value } })}
            className="w-[74px] px-1 py-0.5"
          />
        ) : (
          <Stepped
            label="Size"
            value={size.value}
            step={size.by === 'shares' ? steps.shares : STEP[size.by]}
            least={size.by === 'R' ? 0.25 : 1}
            places={size.by === 'R' ? 2 : 0}
            change={(value) => set({ size: { ...size, value } })}
          />
        )}
        <Choice
          label="Size in"
          value={size.by}
          options={out ? CLOSE_SIZES : ENTRY_SIZES}
          change={(by) =>
            set({ size: by === 'part' ? { by, value: 'all' } : { by, value: numeric(size.value) } })
          }
          className="min-w-0 flex-1 px-1 py-0.5"
        />
      </div>
      <PriceFields f={f} change={(p) => set({ price: p })} />
      <div className="flex gap-1">
        <Choice
          label="Life"
          value={f.life}
          options={LIVES}
          change={(life) => set({ life })}
          className="min-w-0 flex-1 px-1 py-0.5"
        />
        {(accounts?.length ?? 0) > 1 && (
          <Choice
            label="Account"
            value={f.account}
            options={[
              ['', 'account in use'],
              ...(accounts ?? []).map((a) => [a.rules.name, a.rules.name] as const),
            ]}
            change={(account) => set({ account })}
            className="min-w-0 flex-1 px-1 py-0.5"
          />
        )}
        <Tick on={f.extended} change={(extended) => set({ extended })}>
          ext
        </Tick>
      </div>
      {!out && (
        <Choice
          label="Exits"
          value={f.plan}
          options={[
            ['', f.exits === '' ? 'the active plan' : f.exits.replaceAll('\n', ', ')],
            ...plans.map((p) => [p.name, `plan ${p.name}`] as const),
          ]}
          change={(plan) => set({ plan })}
          className="px-1 py-0.5"
        />
      )}
      <input
        className="field num px-1 py-0.5"
        aria-label="When it goes"
        placeholder="at once, or when: last >= 6.60"
        title="A condition, as after “when”; the reference page has them all"
        value={f.condition}
        onChange={(e) => set({ condition: e.target.value })}
      />
      <FourWays text={text} />
      <div className="flex gap-1" role="group" aria-label="Send the ticket">
        {SIDES.map(([verb, name, code]) => (
          <button
            key={verb}
            type="button"
            className={`btn grow px-1 py-0.5 ${verb === f.verb ? 'font-bold' : 'text-quiet'} ${verb === 'buy' || verb === 'cover' ? 'text-up' : 'text-down'}`}
            title={`Alt+${code.slice(3)} while the ticket has the focus`}
            onClick={() => send(verb)}
          >
            {name}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

/** Where the order stands, with the numbers that belong to it. */
function PriceFields({ f, change }: { f: TicketFields; change(price: TicketFields['price']): void }) {
  const last = useSession((s) => s.focus?.last ?? null);
  const steps = useSettings((s) => s.ticketSteps);
  const { price } = f;
  const out = closes(f.verb);
  const priceBy = (by: PriceBy): TicketFields['price'] => {
    const from =
      'value' in f.price && f.price.by !== 'trail'
        ? f.price.value
        : ((last ?? PRICE_SCALE) / PRICE_SCALE).toFixed(2);
    switch (by) {
      case 'market':
      case 'usual':
      case 'hidden':
        return { by };
      case 'limit':
        return { by, value: from };
      case 'stop':
        return { by, value: from, limit: '' };
      case 'trail':
        return { by, value: '20c' };
      default:
        return { by, cents: 'cents' in f.price ? f.price.cents : '0' };
    }
  };
  const tick = steps.cents > 0 ? steps.cents / 100 : tickSize(roundToTick(last ?? PRICE_SCALE)) / PRICE_SCALE;
  return (
    <div className="flex gap-1">
      <Choice
        label="Price"
        value={price.by}
        options={out ? [...PRICES, ['trail', 'trailing'] as const] : PRICES}
        change={(by) => change(priceBy(by))}
        className="min-w-0 flex-1 px-1 py-0.5"
      />
      {'cents' in price && (
        <Stepped
          label="Cents from it"
          value={price.cents}
          step={steps.cents || 1}
          least={-999}
          places={0}
          after="c"
          change={(cents) => change({ ...price, cents })}
        />
      )}
      {'value' in price && price.by !== 'trail' && (
        <Stepped
          label={price.by === 'stop' ? 'Stop price' : 'Limit price'}
          value={price.value}
          step={tick}
          least={0.01}
          places={Number(price.value) < 1 ? 4 : 2}
          change={(value) => change({ ...price, value })}
        />
      )}
      {price.by === 'stop' && (
        <Stepped
          label="Its limit, or none"
          value={price.limit}
          step={tick}
          least={0.01}
          places={Number(price.limit) < 1 ? 4 : 2}
          change={(limit) => change({ ...price, limit })}
        />
      )}
      {price.by === 'trail' && (
        <input
          className="field num w-[74px] px-1 py-0.5"
          aria-label="Trailing by"
          title="20c, 3% or 0.5 atr"
          value={price.value}
          onChange={(e) => change({ by: 'trail', value: e.target.value })}
        />
      )}
    </div>
  );
}

/** A size that is a number, where it was a part. */
const numeric = (text: string): string => (/^[\d.]+$/.test(text) ? text : '100');

/** The size in shares, dollars, part of the power and R, as it would be now; or why it cannot go. */
function FourWays({ text }: { text: string }) {
  const peeked = usePeek(text);
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
    if (by === undefined || e.altKey) return;
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
