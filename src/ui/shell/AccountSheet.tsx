'use client';

import { powerOf } from '@/core/account';
import { isOption, mostToLose, multiplierOfSymbol } from '@/core/instruments';
import { averageEntry, isLive, type Order, openOf, positionOf, type Trade } from '@/core/orders';
import { PRICE_SCALE } from '@/core/units';
import type { AccountSlice } from '@/worker/session/slices';
import { act, useSession } from '../client';
import { clock, usd } from '../format';
import { Pop } from '../primitives/Pop';

/** Whole dollars: the header has room for no more. */
const round = (units: number): string =>
  usd(units).replace(units % PRICE_SCALE === 0 || units > 1_000 * PRICE_SCALE ? /\.\d\d$/ : '', '');

/** The account in use, in the header: its name and power; pressed, where its power went, and the others. */
export function AccountSheet() {
  const account = useSession((s) => s.account);
  const cut = useSession((s) => s.line?.up === false);
  if (!account) return null;
  const warning = cut
    ? 'line cut'
    : account.locked
      ? 'locked'
      : isNear(account)
        ? account.excess < 0
          ? 'margin call'
          : 'call is near'
        : null;
  return (
    <Pop
      title={`Account ${account.name}`}
      className="flex items-baseline gap-1.5 rounded px-1 text-[13px] text-quiet hover:bg-raised"
      label={
        <>
          {/* One place for the name, a cut line and a lock: nothing beside it moves. */}
          <span
            className="inline-block w-[104px] truncate text-right underline decoration-dotted"
            title={cut ? 'Nothing can be sent until the line to the exchange stands again' : account.name}
          >
            {warning ? (
              <b className="border border-text px-1 text-text no-underline">■ {warning}</b>
            ) : (
              account.name
            )}
          </span>
          <span className="num text-text">{round(account.equity)}</span>
          <span title="Buying power">power</span>
          <span className="num text-text">{round(account.buyingPower)}</span>
          <span>
            unit <span className="num text-text">{round(account.riskUnit)}</span>
          </span>
        </>
      }
    >
      <Sheet account={account} />
    </Pop>
  );
}

/** Whether a margin call is there, or near: less than a tenth of the equity lies above what holding asks. */
const isNear = (a: AccountSlice): boolean =>
  a.kind === 'margin' && a.maintenance > 0 && a.excess < a.equity / 10;

function Sheet({ account: a }: { account: AccountSlice }) {
  const book = useSession((s) => s.book);
  const marks = useSession((s) => s.marks);
  const accounts = useSession((s) => s.desk?.accounts);
  const mine = <T extends { account: string }>(list: readonly T[] | undefined): T[] =>
    (list ?? []).filter((x) => x.account === a.id);
  const open = mine(book?.trades).filter((t) => t.status === 'open');
  const entries = mine(book?.orders).filter((o) => o.role === 'entry' && isLive(o));
  const released = mine(book?.trades).reduce((sum, t) => sum + t.exited * (averageEntry(t) ?? 0), 0);
  const cash = a.kind === 'cash';
  return (
    <div className="w-[430px] p-3 text-[13px]">
      <div className="mb-2 flex gap-1" role="group" aria-label="Accounts">
        {accounts?.map((x) => (
          <button
            key={x.id}
            type="button"
            aria-pressed={x.id === a.id}
            className={`btn py-0.5 ${x.id === a.id ? 'border-focus text-focus' : ''}`}
            onClick={() => void act(`use account "${x.rules.name}"`, 'tools', 'Account')}
          >
            {x.rules.name}
          </button>
        ))}
      </div>
      {a.locked && (
        <p className="mb-2 border border-text px-2 py-1 font-semibold">
          ■ Locked since {clock(a.locked.at)}: the day had lost {usd(a.locked.loss)}. No new risk until the
          next day; closing works.
        </p>
      )}
      <table className="num w-full">
        <tbody>
          <Row
            what={cash ? 'settled cash at hand' : 'power at the start of the day'}
            units={a.power.opening}
          />
          {open.map((t) => (
            <Row
              key={`t${t.id}`}
              what={`${t.sign === 1 ? 'long' : 'short'} ${positionOf(t)} ${t.symbol}`}
              units={-used(t, marks?.last[t.symbol] ?? null, a.multiple)}
              quiet
            />
          ))}
          {entries.map((o) => (
            <Row
              key={`o${o.id}`}
              what={`order ${o.id}: ${o.side} ${openOf(o)} ${o.symbol}`}
              units={-needed(o)}
              quiet
            />
          ))}
          {!cash && (
            <Row
              what="result so far, times the multiple"
              units={a.buyingPower - a.power.opening + a.power.positions + a.power.entries}
              quiet
            />
          )}
          <Row what="left" units={a.buyingPower} strong />
          <Row what="used and given back by what was closed" units={released} quiet />
        </tbody>
      </table>
      <table className="num mt-2 w-full border-t border-line">
        <tbody>
          <Row what="equity" units={a.equity} />
          <Row what="result of the day, after costs" units={a.today} signed />
          <Row what="costs of the session" units={a.costs} />
          <Row what="settled cash" units={a.cash.settled} />
          <Row what="settles tomorrow" units={a.cash.unsettled} signed />
          {!cash && <Row what="needed to hold what is held" units={a.maintenance} />}
          {!cash && (
            <Row what={a.excess < 0 ? '⚠ margin call: missing' : 'above that'} units={a.excess} signed />
          )}
        </tbody>
      </table>
      {isNear(a) && a.excess >= 0 && (
        <p className="mt-2 font-semibold">
          ⚠ A margin call is near: another {usd(a.excess)} of loss brings it. Sell some, or add cash.
        </p>
      )}
      {a.overnight > 0 && (
        <p className="mt-2 font-semibold">
          ⚠ {usd(a.overnight)} of what is held has to go before the close: overnight half of its value has to
          be your own (Regulation T).
        </p>
      )}
    </div>
  );
}

/** Power that a position uses, at its price now. */
const used = (t: Trade, last: number | null, multiple: number): number => {
  const at = last ?? averageEntry(t) ?? 0;
  if (!isOption(t.symbol)) return powerOf(t.sign * positionOf(t), at, multiple);
  return mostToLose(t.symbol, t.sign, at) * positionOf(t) * multiplierOfSymbol(t.symbol) * multiple;
};
const needed = (o: Order): number =>
  openOf(o) * (o.works?.to ?? o.limit ?? o.stop ?? 0) * multiplierOfSymbol(o.symbol);

function Row({
  what,
  units,
  quiet = false,
  strong = false,
  signed = false,
}: {
  what: string;
  units: number;
  quiet?: boolean;
  strong?: boolean;
  signed?: boolean;
}) {
  return (
    <tr className={strong ? 'border-t border-line font-bold' : quiet ? 'text-quiet' : ''}>
      <td className="font-sans">{what}</td>
      <td className="text-right">{usd(units, signed || units < 0)}</td>
    </tr>
  );
}
